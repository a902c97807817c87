#include "app/table/tools/tool.hpp"

#include "app/table/drawing_table.hpp"

namespace gc::app {

void TableTool::tab(bool) {
    if (const auto all = ways(); !all.isEmpty()) setWay((m_way + 1) % static_cast<int>(all.size()));
}

void TableTool::setWay(int way) {
    m_way = way;
    dropDraft();
    m_table.rebuildButtons();
    m_table.lookAgain();
}

void TableTool::addButtons() {
    const QStringList all = ways();
    for (int i = 0; i < all.size(); ++i)
        m_table.addButton(
            all[i], 0, [this, i] { setWay(i); }, m_way == i);
}

QString drawAndSize() {
    return QObject::tr("draw and size");
}

QString change() {
    return QObject::tr("change");
}

const QList<ToolKind>& allTools() {
    static const QList<ToolKind> all = QList<ToolKind>{chooseTool(), lineTool()} + drawingTools() +
                                       QList<ToolKind>{followTool(), pictureTool(), dimensionTool()} +
                                       cuttingTools();
    return all;
}

} // namespace gc::app
