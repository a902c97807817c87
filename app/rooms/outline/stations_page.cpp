#include "app/rooms/outline/stations_page.hpp"
#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"
#include "app/look/words.hpp"

#include "core/document/stations_csv.hpp"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>
#include <utility>

namespace gc::app {

namespace {
enum Column { kHeight, kDiameter, kSide, kTolerance, kResidual };

/// Return and Tab keep what was typed and go on; Esc leaves.
class StationField : public QStyledItemDelegate {
  public:
    struct Use {
        std::function<void(int row, int column)> goOn, left;
    };
    StationField(QObject* parent, Use use) : QStyledItemDelegate(parent), m_use(std::move(use)) {}

    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option,
                          const QModelIndex& index) const override {
        m_index = index;
        return QStyledItemDelegate::createEditor(parent, option, index);
    }

  protected:
    bool eventFilter(QObject* editor, QEvent* e) override {
        auto* field = qobject_cast<QLineEdit*>(editor);
        const bool key = e->type() == QEvent::KeyPress || e->type() == QEvent::ShortcutOverride;
        if (!field || !key) return QStyledItemDelegate::eventFilter(editor, e);
        auto* pressed = static_cast<QKeyEvent*>(e);
        if (e->type() == QEvent::ShortcutOverride) {
            // With nothing typed to take back, Ctrl+Z is the part's.
            if (!pressed->matches(QKeySequence::Undo) || field->isUndoAvailable())
                return QStyledItemDelegate::eventFilter(editor, e);
            Q_EMIT closeEditor(field, RevertModelCache);
            e->ignore();
            return true;
        }
        const QModelIndex index = m_index;
        switch (pressed->key()) {
        case Qt::Key_Return:
        case Qt::Key_Enter:
        case Qt::Key_Tab:
            Q_EMIT commitData(field);
            Q_EMIT closeEditor(field, NoHint);
            m_use.goOn(index.row(), index.column());
            return true;
        case Qt::Key_Escape:
            Q_EMIT closeEditor(field, RevertModelCache);
            m_use.left(index.row(), index.column());
            return true;
        default:
            return QStyledItemDelegate::eventFilter(editor, e);
        }
    }

  private:
    Use m_use;
    mutable QPersistentModelIndex m_index;
};

} // namespace

ProfilePlot::ProfilePlot(QWidget* parent) : QWidget(parent) {
    setMinimumWidth(170);
    setMouseTracking(true);
}

void ProfilePlot::show(const std::vector<StationValues>& stations, const OutlineView* outline, int chosen,
                       const UnitSystem& units) {
    m_units = units;
    if (m_dragged < 0) m_stations = stations;
    m_outline = outline ? *outline : OutlineView();
    m_chosen = chosen;
    update();
}

QPointF ProfilePlot::toScreen(double radius, double h) const {
    double top = 1, low = 0, wide = 1;
    for (const StationValues& s : m_stations) {
        top = std::max(top, s.height);
        low = std::min(low, s.height);
        wide = std::max(wide, s.diameter / 2);
    }
    const double scale = std::min((width() - 66) / (wide * 1.12), (height() - 56) / (top - low));
    return {26 + radius * scale, height() - 30 - (h - low) * scale};
}

double ProfilePlot::radiusAt(double x) const {
    const double one = toScreen(1, 0).x() - toScreen(0, 0).x();
    return (x - toScreen(0, 0).x()) / one;
}

void ProfilePlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
    if (m_stations.empty()) return;
    double top = -1e9, low = 1e9;
    for (const StationValues& s : m_stations) {
        top = std::max(top, s.height);
        low = std::min(low, s.height);
    }
    p.setPen(QPen(t.inkSoft, 1, Qt::DashDotLine));
    p.drawLine(toScreen(0, low) + QPointF(0, 12), toScreen(0, top) - QPointF(0, 12));
    p.setFont(textFont(11));
    p.setPen(t.inkSoft);
    p.drawText(QRectF(toScreen(0, low).x() - 20, height() - 18, 60, 16), Qt::AlignLeft, tr("axis"));
    if (m_outline.curve.size() >= 4) {
        QPainterPath curve, fill;
        for (std::size_t i = 0; i + 1 < m_outline.curve.size(); i += 2) {
            const QPointF q = toScreen(static_cast<double>(m_outline.curve[i]),
                                       static_cast<double>(m_outline.curve[i + 1]));
            if (i == 0)
                curve.moveTo(q);
            else
                curve.lineTo(q);
        }
        fill = curve;
        fill.lineTo(toScreen(0, static_cast<double>(m_outline.curve.back())));
        fill.lineTo(toScreen(0, static_cast<double>(m_outline.curve[1])));
        fill.closeSubpath();
        QColor soft = t.clay;
        soft.setAlphaF(0.16f);
        p.fillPath(fill, soft);
        p.strokePath(curve, QPen(t.ink, 1.8));
    }
    for (std::size_t i = 0; i < m_stations.size(); ++i) {
        const StationValues& s = m_stations[i];
        const QPointF at = toScreen(s.diameter / 2, s.height);
        p.setPen(QPen(t.line, 1));
        p.drawLine(toScreen(0, s.height), at);
        const bool now = static_cast<int>(i) == m_chosen;
        p.setPen(QPen(now ? t.accent : t.ink, 1.4));
        p.setBrush(now ? t.accent : t.card);
        if (s.inside)
            p.drawRect(QRectF(at.x() - 4, at.y() - 4, 8, 8));
        else
            p.drawEllipse(at, 4.5, 4.5);
        p.setFont(textFont(11, now ? QFont::Bold : QFont::Medium));
        p.setPen(now ? t.accent : t.inkSoft);
        const QString words =
            QStringLiteral("⌀ ") + QString::fromStdString(formatAmount(s.diameter, m_units.length, 1));
        p.drawText(QRectF(at.x() - 74, at.y() - 19, 64, 16), Qt::AlignRight | Qt::AlignVCenter, words);
    }
}

void ProfilePlot::mousePressEvent(QMouseEvent* e) {
    for (std::size_t i = 0; i < m_stations.size(); ++i)
        if ((stationAt(static_cast<int>(i)) - e->position()).manhattanLength() < 14) {
            m_dragged = static_cast<int>(i);
            Q_EMIT stationChosen(m_dragged);
            return;
        }
}

void ProfilePlot::mouseMoveEvent(QMouseEvent* e) {
    if (m_dragged < 0) return;
    const double d = std::max(0.2, std::round(radiusAt(e->position().x()) * 2 * 10) / 10);
    m_stations[static_cast<std::size_t>(m_dragged)].diameter = d;
    Q_EMIT stationDragged(m_dragged, d, false);
    update();
}

void ProfilePlot::mouseReleaseEvent(QMouseEvent*) {
    if (m_dragged < 0) return;
    const int row = m_dragged;
    m_dragged = -1;
    Q_EMIT stationDragged(row, m_stations[static_cast<std::size_t>(row)].diameter, true);
}

StationsPage::StationsPage(Session* session, ForgeLink* forge, QWidget* parent)
    : QWidget(parent), m_session(session), m_forge(forge) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 12, 10);
    m_title = new QLabel(this);
    m_title->setFont(textFont(15, QFont::Bold));
    layout->addWidget(m_title);
    m_table = new QTableWidget(0, 5, this);
    m_table->setFont(textFont(13));
    m_table->setHorizontalHeaderLabels({tr("height"), tr("⌀"), tr("side"), tr("within"), tr("miss")});
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->horizontalHeader()->setFont(textFont(12));
    m_table->verticalHeader()->setDefaultSectionSize(26);
    m_table->verticalHeader()->setFont(textFont(11));
    m_table->installEventFilter(this);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setItemDelegate(new StationField(
        m_table, {[this](int row, int column) { goOn(row, column); }, [this](int row, int) { left(row); }}));
    layout->addWidget(m_table, 2);
    m_faults = new QLabel(this);
    m_faults->setFont(textFont(12));
    m_faults->setWordWrap(true);
    layout->addWidget(m_faults);
    makeButtons(layout);
    m_plot = new ProfilePlot(this);
    layout->addWidget(m_plot, 3);
    connect(session, &Session::partChanged, this, &StationsPage::refresh);
    connect(forge, &ForgeLink::outlinesChanged, this, &StationsPage::refreshResiduals);
    connect(m_table, &QTableWidget::itemSelectionChanged, this, &StationsPage::refreshResiduals);
    connect(m_plot, &ProfilePlot::stationChosen, this, [this](int row) { m_table->selectRow(row); });
    connect(m_plot, &ProfilePlot::stationDragged, this, [this](int row, double d, bool done) {
        Stations r = rows();
        if (row >= static_cast<int>(r.size())) return;
        const std::string size = formatAmount(d, m_session->part().brief.units.length, 1);
        r[static_cast<std::size_t>(row)].diameter = size;
        if (done)
            return commit(std::move(r),
                          tr("station %1 to ⌀ %2").arg(row + 1).arg(QString::fromStdString(size)));
        Part p = m_session->part();
        p.findStep(m_step)->slots["stations"] = r;
        Q_EMIT previewAsked(p);
    });
    connect(m_table, &QTableWidget::cellChanged, this, [this](int row, int column) {
        if (m_filling) return;
        Stations r = rows();
        StationRow& s = r[static_cast<std::size_t>(row)];
        const std::string text = m_table->item(row, column)->text().trimmed().toStdString();
        if (column == kHeight) s.height = text;
        if (column == kDiameter) s.diameter = text;
        if (column == kTolerance) s.tolerance = text;
        if (column == kSide) s.inside = text.rfind("in", 0) == 0;
        commit(std::move(r), tr("station %1 changed").arg(row + 1));
    });
    connect(m_table, &QTableWidget::cellDoubleClicked, this, [this](int row, int column) {
        if (column != kSide) return;
        Stations r = rows();
        r[static_cast<std::size_t>(row)].inside = !r[static_cast<std::size_t>(row)].inside;
        commit(std::move(r), tr("station %1 turned").arg(row + 1));
    });
}

void StationsPage::addRow() {
    Stations r = rows();
    const int at = m_table->currentRow();
    StationRow fresh{"100 mm", "60 mm", false, ""};
    if (!r.empty()) {
        const std::size_t i =
            at >= 0 && at + 1 < static_cast<int>(r.size()) ? static_cast<std::size_t>(at) : r.size() - 1;
        const auto check = checkStations(r, 0, m_session->part().brief.units, valuesOf(m_session->part()));
        const StationValues& a = check.rows[i];
        const bool between = i + 1 < r.size();
        const double h = between ? 0.5 * (a.height + check.rows[i + 1].height) : a.height + 10;
        const double d = between ? 0.5 * (a.diameter + check.rows[i + 1].diameter) : a.diameter;
        fresh = {inUnits(h), inUnits(d), a.inside, ""};
        r.insert(r.begin() + static_cast<std::ptrdiff_t>(i) + 1, fresh);
    } else
        r.push_back(fresh);
    commit(std::move(r), tr("station added"));
}

/// A length in the part's own unit, as fine as a caliper reads.
std::string StationsPage::inUnits(double mm) const {
    return formatAmount(mm, m_session->part().brief.units.length, 2);
}

/// From a height to its diameter, from there to the next height. Behind the last row a fresh one is begun.
void StationsPage::goOn(int row, int column) {
    m_fresh = -1;
    if (column != kHeight && column != kDiameter) return;
    if (column == kDiameter && row + 1 == m_table->rowCount()) {
        m_table->setCurrentCell(row, column);
        addRow();
        m_fresh = row + 1;
    }
    const int nextRow = column == kHeight ? row : row + 1, next = column == kHeight ? kDiameter : kHeight;
    if (nextRow >= m_table->rowCount()) return;
    m_table->setCurrentCell(nextRow, next);
    m_table->editItem(m_table->item(nextRow, next));
}

/// A row that was begun by itself and not typed into goes again.
void StationsPage::left(int row) {
    if (row != std::exchange(m_fresh, -1)) return;
    deleteRow(row);
}

void StationsPage::deleteRow(int row) {
    Stations r = rows();
    if (row < 0 || row >= static_cast<int>(r.size())) return Q_EMIT message(tr("Choose a row first."));
    r.erase(r.begin() + row);
    commit(std::move(r), tr("station deleted"));
}

void StationsPage::makeButtons(QVBoxLayout* layout) {
    auto* buttons = new QHBoxLayout;
    layout->addLayout(buttons);
    auto button = [&](const QString& text, auto action) {
        auto* b = new QPushButton(text, this);
        b->setFont(textFont(12, QFont::DemiBold));
        b->setFocusPolicy(Qt::NoFocus);
        connect(b, &QPushButton::clicked, this, action);
        buttons->addWidget(b);
    };
    button(tr("Add row"), [this] { addRow(); });
    button(tr("Delete row"), [this] { deleteRow(m_table->currentRow()); });
    button(tr("Paste"), [this] { paste(); });
    button(tr("Copy"),
           [this] { QApplication::clipboard()->setText(QString::fromStdString(writeStations(rows()))); });
    buttons->addStretch();
}

void StationsPage::showStep(int id) {
    m_step = id;
    refresh();
}

Stations StationsPage::rows() const {
    const Step* s = m_session->part().findStep(m_step);
    return s ? s->stations("stations") : Stations{};
}

void StationsPage::commit(Stations rows, const QString& what) {
    Part p = m_session->part();
    Step* s = p.findStep(m_step);
    if (!s) return;
    s->slots["stations"] = std::move(rows);
    m_session->commit(p, what);
}

void StationsPage::paste() {
    const auto read = readStations(QApplication::clipboard()->text().toStdString());
    if (read.rows.size() < 2) {
        const QString why =
            read.faults.empty()
                ? tr("copy rows of height and diameter first")
                : tr("line %1: %2").arg(read.faults[0].row + 1).arg(inWords(read.faults[0].sentence));
        return Q_EMIT message(tr("■ Nothing was pasted: %1.").arg(why));
    }
    commit(read.rows, tr("%1 stations pasted").arg(read.rows.size()));
    if (!read.faults.empty())
        Q_EMIT message(tr("%1 lines were left out; the first is line %2.")
                           .arg(read.faults.size())
                           .arg(read.faults[0].row + 1));
}

bool StationsPage::eventFilter(QObject* o, QEvent* e) {
    if (o == m_table && e->type() == QEvent::KeyPress &&
        static_cast<QKeyEvent*>(e)->matches(QKeySequence::Paste)) {
        paste();
        return true;
    }
    return QWidget::eventFilter(o, e);
}

void StationsPage::refresh() {
    const Part& part = m_session->part();
    const Step* s = part.findStep(m_step);
    if (!s) {
        const auto it = std::find_if(part.steps.begin(), part.steps.end(),
                                     [](const Step& other) { return filledIn(other) == FilledIn::Stations; });
        m_step = it == part.steps.end() ? 0 : it->id;
        s = part.findStep(m_step);
    }
    m_filling = true;
    const Stations r = rows();
    m_table->setRowCount(static_cast<int>(r.size()));
    m_title->setText(s ? tr("Stations of %1").arg(QString::fromStdString(s->text("name")))
                       : tr("No outline yet. Take Stations or Drawing on the left."));
    for (int i = 0; i < static_cast<int>(r.size()); ++i) {
        const StationRow& row = r[static_cast<std::size_t>(i)];
        const QString texts[] = {
            QString::fromStdString(row.height), QString::fromStdString(row.diameter),
            row.inside ? tr("inside") : tr("outside"),
            row.tolerance.empty() && s
                ? QStringLiteral("(%1)").arg(QString::fromStdString(s->text("tolerance")))
                : QString::fromStdString(row.tolerance),
            QString()};
        for (int c = 0; c < 5; ++c) {
            auto* item = m_table->item(i, c);
            if (!item) m_table->setItem(i, c, item = new QTableWidgetItem);
            item->setText(texts[c]);
            item->setForeground(c == kResidual || (c == kTolerance && row.tolerance.empty()) ? theme().inkSoft
                                                                                             : theme().ink);
            if (c == kResidual) item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        }
    }
    m_filling = false;
    refreshResiduals();
}

void StationsPage::refreshResiduals() {
    const Part& part = m_session->part();
    const Step* s = part.findStep(m_step);
    if (!s) return m_plot->show({}, nullptr, -1, part.brief.units);
    m_filling = true;
    const auto it = m_forge->outlines().find(m_step);
    const OutlineView* outline = it == m_forge->outlines().end() ? nullptr : &it->second;
    const auto check = checkStations(rows(), 0, part.brief.units, valuesOf(part));
    QStringList faults;
    std::vector<QString> why(check.rows.size());
    for (const RowFault& f : check.faults) {
        faults << tr("■ Row %1: %2").arg(f.row + 1).arg(inWords(f.sentence));
        why[static_cast<std::size_t>(f.row)] = inWords(f.sentence);
    }
    for (int i = 0; i < m_table->rowCount(); ++i) {
        const bool bad = i < static_cast<int>(why.size()) && !why[static_cast<std::size_t>(i)].isEmpty();
        if (auto* item = m_table->item(i, kResidual))
            item->setText(
                bad ? QStringLiteral("■")
                : outline && i < static_cast<int>(outline->residuals.size())
                    ? QString::fromStdString(formatAmount(outline->residuals[static_cast<std::size_t>(i)],
                                                          m_session->part().brief.units.length, 3))
                    : QStringLiteral("–"));
        for (int c = 0; c < 5; ++c)
            if (auto* item = m_table->item(i, c)) {
                item->setBackground(bad ? QBrush(theme().accentSoft) : QBrush());
                item->setToolTip(bad ? why[static_cast<std::size_t>(i)] : QString());
            }
    }
    m_faults->setText(faults.join(QLatin1Char('\n')));
    m_faults->setVisible(!faults.isEmpty());
    m_filling = false;
    m_plot->show(check.faults.empty() ? check.rows : std::vector<StationValues>{},
                 check.faults.empty() ? outline : nullptr, m_table->currentRow(), part.brief.units);
}

} // namespace gc::app
