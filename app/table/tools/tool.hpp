#pragma once
/// \file A tool of the drawing table. Each has a file of its own, which says what it is called, what the
/// pointer and the keys mean while it is at hand, and what it paints.

#include "core/sketch/drawing.hpp"

#include <QList>
#include <QPointF>
#include <QStringList>

#include <functional>
#include <memory>
#include <optional>

class QKeyEvent;
class QPainter;

namespace gc::app {

class DrawingTable;

class TableTool {
  public:
    explicit TableTool(DrawingTable& table) : m_table(table) {}
    virtual ~TableTool() = default;
    TableTool(const TableTool&) = delete;
    TableTool& operator=(const TableTool&) = delete;

    // The pointer
    /// What is under the pointer now: what would be hit, what would be offered.
    virtual void look(QPointF pointer, Qt::KeyboardModifiers keys) = 0;
    /// The button goes down on the paper; a tool that drags takes hold of something.
    virtual void press(QPointF, Qt::KeyboardModifiers) {}
    /// \return whether the tool drags, so that the pointer means nothing else
    virtual bool drag(QPointF) { return false; }
    /// \param still it has not moved since it went down
    /// \return whether a drag ended here, so that it is no click
    virtual bool drop(QPointF, bool /*still*/, Qt::KeyboardModifiers) { return false; }
    virtual void click(QPointF pointer, bool more) = 0;

    // The keyboard
    /// Tab, and with Shift: the other way.
    virtual void tab(bool back);
    /// Enter: what is under way is done.
    virtual void finish() {}
    /// What is under way is dropped. \return whether there was something
    virtual bool dropDraft() { return false; }
    /// It takes places one after the other, which can be typed; that is the last one.
    virtual bool takesPlaces() const { return false; }
    virtual std::optional<Vec2> lastPlace() const { return std::nullopt; }
    /// Where a click would land now.
    virtual std::optional<Vec2> offeredPlace() const { return std::nullopt; }
    /// The next place was typed. \param length the text of the length, where it was one; else empty
    virtual void typedPlace(Vec2, const std::string& /*length*/) {}

    // What is seen
    virtual void paintUnder(QPainter&) {}
    virtual void paint(QPainter&) {}
    /// Buttons below the table.
    virtual void addButtons();
    /// What it has picked.
    virtual std::vector<int> picked() const { return {}; }
    /// A chain of strokes is being drawn: its end is no trouble.
    virtual bool chainOpen() const { return false; }
    virtual Qt::CursorShape cursor() const { return Qt::CrossCursor; }

    /// The ways in which it can be used, as on the buttons below the table; empty when there is only one.
    virtual QStringList ways() const { return {}; }
    int way() const { return m_way; }
    void setWay(int way);

  protected:
    DrawingTable& table() const { return m_table; }

  private:
    DrawingTable& m_table;
    int m_way = 0;
};

/// How a tool is offered, and how one is made.
struct ToolKind {
    QString key, label, tip, group;
    std::function<std::unique_ptr<TableTool>(DrawingTable&)> make;
};

/// In the order in which they are offered.
const QList<ToolKind>& allTools();

/// The groups that tools stand in.
QString drawAndSize();
QString change();

// One or more from each file.
ToolKind chooseTool();
ToolKind lineTool();
QList<ToolKind> drawingTools();
ToolKind followTool();
ToolKind pictureTool();
ToolKind dimensionTool();
QList<ToolKind> cuttingTools();

} // namespace gc::app
