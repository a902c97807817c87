#include "app/rooms/release/release_page.hpp"

#include "app/look/theme.hpp"

#include <QLabel>
#include <QVBoxLayout>

namespace gc::app {

ReleasePage::ReleasePage(QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 12, 18, 18);
    column->setSpacing(10);
    auto* title = new QLabel(tr("Release"), this);
    title->setFont(textFont(15, QFont::Bold));
    column->addWidget(title);
    const std::pair<QString, QString> exports[] = {
        {QStringLiteral(".step"), tr("STEP – exact surfaces in mm, for a toolmaker")},
        {QStringLiteral(".3mf"), tr("3MF – triangles with units and names, for a printer")},
        {QStringLiteral(".stl"), tr("STL – plain triangles, to be read as mm")},
        {QStringLiteral(".glb"),
         tr("GLB (glTF) – triangles with names and colours, for pictures and the web")},
        {QStringLiteral(".obj"), tr("OBJ – triangles with names, to be read as mm")},
        {QStringLiteral(".pdf"), tr("Proof sheet as PDF – to print or to send")},
        {QStringLiteral(".html"), tr("Proof sheet as a page – to open anywhere")}};
    for (const auto& [ending, words] : exports) {
        auto* b = new QPushButton(words, this);
        b->setFont(textFont(13, QFont::DemiBold));
        b->setStyleSheet(QStringLiteral("text-align:left; padding:12px 16px;"));
        const QString e = ending;
        const bool sheet = ending == QLatin1String(".pdf") || ending == QLatin1String(".html");
        connect(b, &QPushButton::clicked, this,
                [this, e, sheet] { sheet ? Q_EMIT proofSheetAsked(e) : Q_EMIT exportAsked(e); });
        column->addWidget(b);
        m_buttons[ending] = b;
    }
    column->addStretch();
    auto* note = new QLabel(tr("The proof sheet records what was measured. It is no promise that a part is "
                               "safe or fit for its use: follow local rules and licensed practice."),
                            this);
    note->setWordWrap(true);
    note->setFont(textFont(12));
    column->addWidget(note);
}

QPushButton* ReleasePage::button(const QString& ending) const {
    const auto it = m_buttons.find(ending);
    return it == m_buttons.end() ? nullptr : it->second;
}

} // namespace gc::app
