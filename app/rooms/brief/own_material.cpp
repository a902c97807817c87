#include "app/rooms/brief/own_material.hpp"

#include "app/look/words.hpp"
#include "core/process/material.hpp"

#include <QGridLayout>

namespace gc::app {

OwnMaterial::OwnMaterial(QWidget* parent) : QWidget(parent) {
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(6);
    const auto field = [this](const QString& example) {
        auto* f = new QLineEdit(this);
        f->setPlaceholderText(example);
        connect(f, &QLineEdit::returnPressed, this, &OwnMaterial::keep);
        return f;
    };
    m_name = field(tr("name of the material"));
    m_density = field(tr("density, for example 0.93 g/cm³"));
    m_source = field(tr("where that is from: data sheet, weighed …"));
    m_keep = new QPushButton(tr("Keep it"), this);
    auto* leave = new QPushButton(tr("Leave it"), this);
    grid->addWidget(m_name, 0, 0);
    grid->addWidget(m_density, 0, 1, 1, 2);
    grid->addWidget(m_source, 1, 0);
    grid->addWidget(m_keep, 1, 1);
    grid->addWidget(leave, 1, 2);
    grid->setColumnStretch(0, 3);
    connect(m_keep, &QPushButton::clicked, this, &OwnMaterial::keep);
    connect(leave, &QPushButton::clicked, this, [this] {
        hide();
        Q_EMIT left();
    });
    hide();
}

void OwnMaterial::begin() {
    for (QLineEdit* f : {m_name, m_density, m_source}) f->clear();
    show();
    m_name->setFocus();
}

void OwnMaterial::keep() {
    const auto density = densityFromText(m_density->text().trimmed().toStdString());
    if (!density) {
        m_density->setFocus();
        return Q_EMIT problem(inWords(density.error().sentence));
    }
    const QString name = m_name->text().trimmed();
    const auto done =
        keepOwnMaterial({name.toStdString(), "other", *density, m_source->text().trimmed().toStdString()});
    if (!done) {
        (name.isEmpty() ? m_name : m_source)->setFocus();
        return Q_EMIT problem(inWords(done.error().sentence));
    }
    hide();
    Q_EMIT kept(name);
}

} // namespace gc::app
