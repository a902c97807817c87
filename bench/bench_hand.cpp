/// Memory of window and forge over an afternoon of edits by hand: numbers clicked and typed, numbers dragged,
/// undone. Build and run: cmake --build --preset release --target bench_hand && xvfb-run -a -s "-screen 0
/// 1280x800x24"
///   build/release/bin/bench_hand [edits]

#include "app/shell/main_window.hpp"
#include "app/shell/start.hpp"
#include "core/document/slot_trait.hpp"
#include "tests/support/temporary_folder.hpp"
#include "tests/window/hand.hpp"

#include <QApplication>
#include <QFile>

#include <cstdio>
#include <random>
#include <unistd.h>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

double residentMb(qint64 process) {
    QFile status(QStringLiteral("/proc/%1/status").arg(process));
    if (!status.open(QIODevice::ReadOnly)) return 0;
    for (const QByteArray& line : status.readAll().split('\n'))
        if (line.startsWith("VmRSS:")) return line.simplified().split(' ').at(1).toDouble() / 1024;
    return 0;
}

/// The herb pot and a hand at it. The numbers of its sheet are those of the shell and of the fillet.
class Afternoon {
  public:
    Afternoon() {
        const QString file = QString::fromStdString(m_folder.file("pot.goodcurve"));
        QFile::copy(QStringLiteral("demo/herb-pot.goodcurve"), file);
        m_window.move(0, 0);
        m_window.show();
        m_window.session()->open(file);
        measured();
        m_hand = std::make_unique<Hand>(&m_window);
        for (const Step& s : m_window.session()->part().steps)
            if (const StepWords* words = findStepWords(s.kind))
                for (const SlotWords& slot : words->slots)
                    if (traitOf(slot.type).holds == SlotTrait::Holds::Number && slot.dimension == kLength &&
                        !number(s.id, slot.key).isEmpty())
                        m_numbers.push_back({s.id, QString::fromStdString(slot.key)});
        std::printf("%zu numbers to change\n", m_numbers.size());
    }
    ~Afternoon() { m_window.session()->endCleanly(); }

    void spend(int edits) {
        report(0);
        std::mt19937 random(11);
        for (int k = 1; k <= edits; ++k) {
            const auto& [step, slot] = m_numbers[random() % m_numbers.size()];
            switch (random() % 4) {
            case 0:
                m_hand->press("z", true);
                break;
            case 1:
                drag(step, slot, static_cast<int>(random() % 41) - 20);
                break;
            default:
                type(step, slot, 1.8 + static_cast<double>(random() % 100) / 80);
            }
            if (random() % 2) measured(); // else the forge is still busy with the one before
            if (k == 20 || k == 50 || k % 100 == 0) report(k);
        }
    }

  private:
    QRectF number(int step, const std::string& slot) {
        StepRow* row = m_window.sheet()->row(step);
        return row ? QRectF(row->sentence()->slotRect(QString::fromStdString(slot))) : QRectF();
    }
    void type(int step, const QString& slot, double value) {
        SentenceFlow* sentence = m_window.sheet()->row(step)->sentence();
        m_hand->click(sentence, QRectF(sentence->slotRect(slot)).center());
        m_hand->press("a", true);
        m_hand->type(QString::number(value, 'f', 2));
        m_hand->press("Return");
    }
    void drag(int step, const QString& slot, int by) {
        SentenceFlow* sentence = m_window.sheet()->row(step)->sentence();
        const QPointF from = QRectF(sentence->slotRect(slot)).center();
        m_hand->drag(sentence, from, from + QPointF(by, 0));
    }
    bool measured() {
        Hand::settle();
        return Hand::wait([&] { return !m_window.forge()->busy() && m_window.forge()->wallsKnown(); }, 60000);
    }
    void report(int k) {
        measured();
        std::printf("after %4d edits by hand: window %.1f MB, forge %.1f MB, %zu states to undo\n", k,
                    residentMb(::getpid()), residentMb(m_window.forge()->processId()),
                    m_window.session()->history().depth());
        std::fflush(stdout);
    }

    TemporaryFolder m_folder;
    MainWindow m_window;
    std::unique_ptr<Hand> m_hand;
    std::vector<std::pair<int, QString>> m_numbers;
};

} // namespace

int main(int argc, char** argv) {
    setSurfaceFormat();
    QApplication app(argc, argv);
    dressApplication();
    Afternoon afternoon;
    afternoon.spend(argc > 1 ? std::atoi(argv[1]) : 700);
    return 0;
}
