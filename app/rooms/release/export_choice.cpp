#include "app/rooms/release/export_choice.hpp"

#include "app/look/theme.hpp"

#include <QCheckBox>
#include <QDialogButtonBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace gc::app {

ExportChoice::ExportChoice(const std::vector<Body>& bodies, QWidget* parent)
    : QDialog(parent), m_bodies(bodies) {
    setObjectName(QStringLiteral("exportChoice"));
    setWindowTitle(tr("Which bodies?"));
    auto* list = new QVBoxLayout(this);
    list->setContentsMargins(20, 16, 20, 14);
    list->setSpacing(8);
    auto* words =
        new QLabel(tr("A file of triangles knows no bodies. Which of them shall go into it?"), this);
    words->setFont(textFont(13));
    list->addWidget(words);
    for (const Body& b : m_bodies) {
        auto* box = new QCheckBox(b.aside    ? tr("%1 (only to compare with)").arg(b.name)
                                  : b.hidden ? tr("%1 (hidden in the stand)").arg(b.name)
                                             : b.name,
                                  this);
        box->setFont(textFont(13));
        box->setChecked(!b.hidden && !b.aside);
        list->addWidget(box);
        m_boxes.push_back(box);
    }
    list->addSpacing(6);
    m_apart = new QCheckBox(tr("Each in a file of its own, named after the body"), this);
    m_apart->setFont(textFont(13));
    list->addWidget(m_apart);
    list->addSpacing(6);
    auto* buttons = new QDialogButtonBox(this);
    m_write = buttons->addButton(tr("Write"), QDialogButtonBox::AcceptRole);
    buttons->addButton(tr("Not now"), QDialogButtonBox::RejectRole);
    list->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    for (QCheckBox* box : m_boxes)
        connect(box, &QCheckBox::toggled, this, [this] {
            const bool any =
                std::any_of(m_boxes.begin(), m_boxes.end(), [](auto* b) { return b->isChecked(); });
            m_write->setEnabled(any);
        });
}

std::vector<ThingId> ExportChoice::bodies() const {
    std::vector<ThingId> out;
    for (std::size_t i = 0; i < m_boxes.size(); ++i)
        if (m_boxes[i]->isChecked()) out.push_back(m_bodies[i].id);
    return out;
}

bool ExportChoice::apart() const {
    return m_apart->isChecked();
}

} // namespace gc::app
