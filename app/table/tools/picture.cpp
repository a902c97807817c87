// The picture that is drawn over: set to scale by two places and a length, moved, made paler.

#include "app/look/theme.hpp"
#include "app/look/words.hpp"
#include "app/table/drawing_table.hpp"
#include "app/table/tools/tool.hpp"

#include <QPainter>

#include <algorithm>
#include <cmath>
#include <utility>

namespace gc::app {

namespace {

class PictureTool : public TableTool {
  public:
    using TableTool::TableTool;

    QStringList ways() const override { return {QObject::tr("set to scale"), QObject::tr("move it")}; }
    void look(QPointF pointer, Qt::KeyboardModifiers) override {
        m_pointer = pointer;
        table().setHover(0);
    }
    void click(QPointF pointer, bool) override;
    bool dropDraft() override { return !std::exchange(m_clicks, {}).empty(); }
    void paint(QPainter& p) override;
    void addButtons() override;

  private:
    void askLength(QPointF at);
    bool scaleTo(const QString& typed);
    void changeStrength(double by);

    QPointF m_pointer;
    std::vector<Vec2> m_clicks;
};

void PictureTool::click(QPointF pointer, bool) {
    if (!table().model().drawing().picture) return Q_EMIT table().pictureAsked();
    m_clicks.push_back(table().view().toDrawing(pointer));
    if (m_clicks.size() < 2) {
        table().say(way() == 0 ? QObject::tr("Now the other end of something whose length you know.")
                               : QObject::tr("Now where that place of the picture shall lie."));
        return table().update();
    }
    if (way() == 1) {
        const Vec2 by = m_clicks[1] - m_clicks[0];
        m_clicks.clear();
        table().model().edit(QObject::tr("picture moved"),
                             [&](Drawing& d) { d.picture->at = d.picture->at + by; });
        return;
    }
    if (length(m_clicks[1] - m_clicks[0]) < 1e-6) {
        m_clicks.pop_back();
        return table().say(QObject::tr("■ The two places are one. Click the second further away."));
    }
    askLength(pointer);
}

void PictureTool::askLength(QPointF at) {
    TableField::Use use;
    use.keep = [this](const QString& typed) { return scaleTo(typed); };
    use.closed = [this](bool kept) {
        m_clicks.clear();
        if (kept) table().fit();
        table().update();
    };
    table().field().open({}, at + QPointF(16, 16), 150, std::move(use));
    table().field().edit()->setPlaceholderText(QObject::tr("length, 60 mm"));
    table().say(QObject::tr("How long is that? Type it with its unit; Enter sets the picture to scale."));
}

/// The two places come to lie as far apart as was typed; the first stays where it is.
bool PictureTool::scaleTo(const QString& typed) {
    const auto wanted = table().model().lengthFrom(typed);
    if (!wanted) {
        table().say(QStringLiteral("■ ") + inWords(wanted.error().sentence));
        return false;
    }
    if (m_clicks.size() < 2) return true; // its drawing went meanwhile
    const Vec2 fixed = m_clicks[0];
    const double factor = *wanted / length(m_clicks[1] - fixed);
    const bool taken = table().model().edit(QObject::tr("picture to scale"), [&](Drawing& d) {
        if (!d.picture) return;
        d.picture->at = fixed + (d.picture->at - fixed) * factor;
        d.picture->width *= factor;
        d.picture->height *= factor;
        d.sized = true; // what is drawn over it has its real size
    });
    if (taken) table().say(QObject::tr("✓ The picture is true to size now: draw over it."));
    return true;
}

/// The places clicked so far.
void PictureTool::paint(QPainter& p) {
    if (m_clicks.empty()) return;
    const TableView& view = table().view();
    const QPointF a = view.toScreen(m_clicks[0]);
    const QPointF b = m_clicks.size() > 1 ? view.toScreen(m_clicks[1]) : m_pointer;
    p.setPen(QPen(theme().accent, 1.8));
    p.drawLine(a, b);
    for (const QPointF& q : {a, b}) {
        p.drawLine(q - QPointF(7, 0), q + QPointF(7, 0));
        p.drawLine(q - QPointF(0, 7), q + QPointF(0, 7));
    }
}

void PictureTool::changeStrength(double by) {
    table().model().edit(QObject::tr("picture strength"), [by](Drawing& d) {
        d.picture->strength = std::clamp(std::round((d.picture->strength + by) * 10) / 10, 0.1, 1.0);
    });
}

void PictureTool::addButtons() {
    const auto& placed = table().model().drawing().picture;
    const auto another = [this] { Q_EMIT table().pictureAsked(); };
    if (!placed) return table().addButton(QObject::tr("Choose a picture …"), 0, another);
    table().addButton(QObject::tr("paler"), 1, [this] { changeStrength(-0.1); });
    table().addButton(
        QObject::tr("%1 % strong").arg(std::lround(placed->strength * 100)), 1, [] {}, true);
    table().addButton(QObject::tr("stronger"), 1, [this] { changeStrength(0.1); });
    table().addButton(QObject::tr("Another picture …"), 1, another);
    table().addButton(QObject::tr("Take it away"), 1, [this] {
        table().model().edit(QObject::tr("picture taken away"), [](Drawing& d) { d.picture.reset(); });
    });
    TableTool::addButtons();
}

} // namespace

ToolKind pictureTool() {
    return {QStringLiteral("picture"), QObject::tr("Picture"),
            QObject::tr("A picture to draw over: two places and a length set it to scale"), drawAndSize(),
            [](DrawingTable& t) { return std::make_unique<PictureTool>(t); }};
}

} // namespace gc::app
