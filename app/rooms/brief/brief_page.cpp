#include "app/rooms/brief/brief_page.hpp"
#include "app/look/plain_combo.hpp"
#include "app/look/theme.hpp"
#include "app/look/words.hpp"
#include "core/document/named_values.hpp"

#include "core/process/material.hpp"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>

namespace gc::app {

namespace {

constexpr int kRowHeight = 28; // pixels

QTableWidget* table(const QStringList& headings, QWidget* parent) {
    auto* t = new QTableWidget(0, static_cast<int>(headings.size()), parent);
    t->setFont(textFont(13));
    t->setHorizontalHeaderLabels(headings);
    t->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    t->horizontalHeader()->setFont(textFont(12));
    t->verticalHeader()->hide();
    t->verticalHeader()->setDefaultSectionSize(kRowHeight);
    t->setSelectionBehavior(QAbstractItemView::SelectRows);
    return t;
}

void put(QTableWidget* t, int row, int column, const QString& text) {
    auto* item = t->item(row, column);
    if (!item) t->setItem(row, column, item = new QTableWidgetItem);
    item->setText(text);
    item->setForeground(theme().ink);
}

QLabel* heading(const QString& text, QWidget* parent) {
    auto* l = new QLabel(text, parent);
    l->setFont(textFont(14, QFont::Bold));
    return l;
}

} // namespace

BriefPage::BriefPage(Session* session, QWidget* parent) : QWidget(parent), m_session(session) {
    setFont(textFont(13));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(18, 12, 14, 10);
    layout->setSpacing(6);
    layout->addWidget(heading(tr("Brief"), this));
    layout->addLayout(makeForm());
    makeTables(layout);
    connectFields();
    connectTables();
}

QFormLayout* BriefPage::makeForm() {
    auto* form = new QFormLayout;
    form->setVerticalSpacing(6);
    m_name = new QLineEdit(this);
    m_purpose = new QPlainTextEdit(this);
    m_purpose->setFixedHeight(54);
    m_process = new PlainCombo(this);
    for (const Process& p : processes()) m_process->addItem(QString::fromStdString(p.name));
    m_material = new PlainCombo(this);
    m_material->setMaxVisibleItems(16);
    listMaterials();
    m_density = new QLabel(this);
    m_density->setWordWrap(true);
    m_density->setFont(textFont(11));
    m_pull = new PlainCombo(this);
    m_pull->addItems({tr("up"), tr("front"), tr("side")});
    m_length = new PlainCombo(this);
    m_length->addItems({QStringLiteral("mm"), QStringLiteral("cm"), QStringLiteral("in")});
    m_fillLine = new QLineEdit(this);
    m_fillLine->setPlaceholderText(tr("height of the fill line, for example 96 mm"));
    form->addRow(tr("Part"), m_name);
    form->addRow(tr("For what"), m_purpose);
    auto* made = new QHBoxLayout;
    made->setSpacing(8);
    made->addWidget(m_process, 1);
    made->addWidget(new QLabel(tr("of"), this));
    made->addWidget(m_material, 1);
    form->addRow(tr("Made by"), made);
    form->addRow(QString(), m_density);
    m_own = new OwnMaterial(this);
    form->addRow(QString(), m_own);
    auto* small = new QHBoxLayout;
    small->setSpacing(8);
    small->addWidget(m_pull);
    small->addWidget(new QLabel(tr("lengths in"), this));
    small->addWidget(m_length);
    small->addStretch();
    form->addRow(tr("Tool opens"), small);
    form->addRow(tr("Fill line"), m_fillLine);
    m_units = new UnitsChoice(m_session, this);
    form->addRow(QString(), m_units);
    return form;
}

/// The last entry asks for one of one's own.
void BriefPage::listMaterials() {
    m_material->clear();
    if (const auto materials = loadMaterials())
        for (const Material& m : *materials)
            m_material->addItem(QString::fromStdString(m.name),
                                QStringLiteral("%1 g/cm³, %2")
                                    .arg(m.density.internal() * 1000, 0, 'g', 4)
                                    .arg(QString::fromStdString(m.source)));
    m_material->insertSeparator(m_material->count());
    m_material->addItem(tr("One of your own …"));
}

void BriefPage::makeTables(QVBoxLayout* layout) {
    layout->addWidget(heading(tr("Targets"), this));
    m_targets = table({tr("measure"), tr("allowed"), tr("of")}, this);
    layout->addWidget(m_targets);
    auto* buttons = new QHBoxLayout;
    m_add = new PlainCombo(this);
    m_add->addItem(tr("Ask for …"));
    for (const MeasureWords& m : allMeasures())
        if (m.ofPicked == 0) // others are kept where they are read, in the stand
            m_add->addItem(inWords(m.label), QString::fromStdString(m.key));
    m_remove = new QPushButton(tr("Delete target"), this);
    m_addValue = new QPushButton(tr("Add value"), this);
    buttons->addWidget(m_add);
    buttons->addWidget(m_remove);
    buttons->addStretch();
    layout->addLayout(buttons);
    auto* valueLine = new QHBoxLayout;
    valueLine->addWidget(heading(tr("Named values"), this));
    valueLine->addStretch();
    valueLine->addWidget(m_addValue);
    layout->addLayout(valueLine);
    m_values = table({tr("name"), tr("value"), tr("note"), tr("used in")}, this);
    for (const int narrow : {0, 1})
        m_values->horizontalHeader()->setSectionResizeMode(narrow, QHeaderView::ResizeToContents);
    layout->addWidget(m_values);
    layout->addWidget(heading(tr("Caution"), this));
    m_caution = new QPlainTextEdit(this);
    m_caution->setFixedHeight(56);
    layout->addWidget(m_caution);
    layout->addStretch();
}

void BriefPage::connectFields() {
    connect(m_session, &Session::partChanged, this, &BriefPage::refresh);
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        if (m_name->text().toStdString() != m_session->part().name)
            commit([&](Part& p) { p.name = m_name->text().toStdString(); }, tr("renamed"));
    });
    connect(m_fillLine, &QLineEdit::editingFinished, this, [this] {
        if (m_fillLine->text().toStdString() != m_session->part().brief.fillLine)
            commit([&](Part& p) { p.brief.fillLine = m_fillLine->text().toStdString(); }, tr("fill line"));
    });
    connect(m_process, &QComboBox::textActivated, this, [this](const QString& s) {
        commit([&](Part& p) { p.brief.process = s.toStdString(); }, tr("process"));
    });
    connect(m_material, &QComboBox::activated, this, [this](int i) {
        if (i == m_material->findText(tr("One of your own …"))) return m_own->begin();
        m_own->hide();
        const std::string name = m_material->itemText(i).toStdString();
        commit([&](Part& p) { p.brief.material = name; }, tr("material"));
    });
    connect(m_own, &OwnMaterial::kept, this, [this](const QString& name) {
        listMaterials();
        commit([&](Part& p) { p.brief.material = name.toStdString(); }, tr("material"));
        refresh(); // of the same name with another density it is the same part
        m_session->partChanged();
    });
    connect(m_own, &OwnMaterial::left, this, &BriefPage::refresh);
    connect(m_own, &OwnMaterial::problem, this,
            [this](const QString& s) { Q_EMIT message(QStringLiteral("■ ") + s); });
    connect(m_pull, &QComboBox::activated, this, [this](int i) {
        commit([&](Part& p) { p.brief.pull = i == 0 ? "up" : i == 1 ? "front" : "side"; }, tr("pull"));
    });
    connect(m_length, &QComboBox::textActivated, this, [this](const QString& s) {
        if (!m_filling) m_units->change(s.toStdString());
    });
    connect(m_purpose, &QPlainTextEdit::textChanged, this, [this] {
        if (!m_filling)
            commit([&](Part& p) { p.brief.purpose = m_purpose->toPlainText().toStdString(); }, tr("purpose"));
    });
    connect(m_caution, &QPlainTextEdit::textChanged, this, [this] {
        if (!m_filling)
            commit([&](Part& p) { p.brief.caution = m_caution->toPlainText().toStdString(); }, tr("caution"));
    });
}

void BriefPage::connectTables() {
    connect(m_add, &QComboBox::activated, this, [this](int i) {
        const QString key = m_add->itemData(i).toString();
        m_add->setCurrentIndex(0);
        if (key.isEmpty()) return;
        const std::string first = findMeasure(key.toStdString())->first;
        commit([&](Part& p) { p.brief.targets.push_back({key.toStdString(), first}); }, tr("target added"));
    });
    connect(m_remove, &QPushButton::clicked, this, [this] {
        const int row = m_targets->currentRow();
        if (row < 0) return Q_EMIT message(tr("Choose a target first."));
        commit([&](Part& p) { p.brief.targets.erase(p.brief.targets.begin() + row); }, tr("target deleted"));
    });
    connect(m_addValue, &QPushButton::clicked, this, [this] {
        commit(
            [&](Part& p) {
                p.values.push_back({"value" + std::to_string(p.values.size() + 1), "10 mm", ""});
            },
            tr("value added"));
    });
    connect(m_targets, &QTableWidget::cellChanged, this, [this](int row, int column) {
        if (m_filling || column != 1) return;
        const std::string text = m_targets->item(row, 1)->text().toStdString();
        const Part& part = m_session->part();
        const auto range = parseAllowed(
            text, findMeasure(part.brief.targets[static_cast<std::size_t>(row)].measure)->dimension,
            part.brief.units);
        if (!range) {
            Q_EMIT message(QStringLiteral("■ ") + inWords(range.error().sentence));
            return refresh();
        }
        commit([&](Part& p) { p.brief.targets[static_cast<std::size_t>(row)].allowed = text; },
               tr("target changed"));
    });
    connect(m_values, &QTableWidget::cellChanged, this, &BriefPage::valueTyped);
}

void BriefPage::valueTyped(int row, int column) {
    if (m_filling) return;
    Part p = m_session->part();
    const std::string text = m_values->item(row, column)->text().toStdString();
    if (column == 0) { // everything that uses it follows
        const std::string why = renameValue(p, p.values[static_cast<std::size_t>(row)].name, text);
        if (!why.empty()) {
            Q_EMIT message(QStringLiteral("■ ") + QString::fromStdString(why));
            return refresh();
        }
    }
    NamedValue& v = p.values[static_cast<std::size_t>(row)];
    if (column == 1) v.expression = text;
    if (column == 2) v.note = text;
    if (const auto all = evaluateValues(p.values, p.brief.units); !all) {
        Q_EMIT message(QStringLiteral("■ ") + inWords(all.error().sentence));
        return refresh();
    }
    m_session->commit(p, tr("value changed"));
}

void BriefPage::commit(const std::function<void(Part&)>& change, const QString& what) {
    if (m_filling) return;
    Part p = m_session->part();
    change(p);
    m_session->commit(p, what);
}

void BriefPage::showTargets() {
    const Part& part = m_session->part();
    const auto& targets = part.brief.targets;
    const std::vector<std::string> bodies = namesOf(part, Thing::Body);
    m_targets->setRowCount(static_cast<int>(targets.size()));
    for (int i = 0; i < m_targets->rowCount(); ++i) {
        const Target& t = targets[static_cast<std::size_t>(i)];
        const bool picked = !t.of.empty(); // it says itself what it is of
        put(m_targets, i, 0,
            picked ? QString::fromStdString(targetInWords(t, part)) : inWords(findMeasure(t.measure)->label));
        m_targets->item(i, 0)->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        m_targets->item(i, 0)->setToolTip(inWords(findMeasure(t.measure)->question));
        put(m_targets, i, 1, QString::fromStdString(t.allowed));
        m_targets->setCellWidget(i, 2, picked ? nullptr : bodyChoice(i, bodies));
    }
    // With but one body there is nothing to choose.
    const bool named =
        std::any_of(targets.begin(), targets.end(), [](const Target& t) { return !t.body.empty(); });
    m_targets->setColumnHidden(2, bodies.size() < 2 && !named);
}

/// The body that a target is about, to be chosen.
QComboBox* BriefPage::bodyChoice(int row, const std::vector<std::string>& bodies) {
    auto* choice = new PlainCombo(m_targets);
    choice->setFont(textFont(13));
    choice->setToolTip(tr("The body that is measured"));
    choice->addItem(tr("all bodies"));
    for (const std::string& name : bodies)
        choice->addItem(QString::fromStdString(name), QString::fromStdString(name));
    const QString now =
        QString::fromStdString(m_session->part().brief.targets[static_cast<std::size_t>(row)].body);
    if (!now.isEmpty() && choice->findData(now) < 0) choice->addItem(tr("%1, which is gone").arg(now), now);
    choice->setCurrentIndex(now.isEmpty() ? 0 : choice->findData(now));
    connect(choice, &QComboBox::activated, this, [this, row, choice](int i) {
        const std::string body = choice->itemData(i).toString().toStdString();
        // Later: the list goes with the row that is made anew.
        QMetaObject::invokeMethod(
            this,
            [this, row, body] {
                commit([&](Part& p) { p.brief.targets[static_cast<std::size_t>(row)].body = body; },
                       tr("target of a body"));
            },
            Qt::QueuedConnection);
    });
    return choice;
}

void BriefPage::refresh() {
    m_filling = true;
    const Part& part = m_session->part();
    const Brief& b = part.brief;
    m_name->setText(QString::fromStdString(part.name));
    m_fillLine->setText(QString::fromStdString(b.fillLine));
    m_process->setCurrentText(QString::fromStdString(b.process));
    if (m_material->findText(QString::fromStdString(b.material)) < 0)
        m_material->insertItem(0, QString::fromStdString(b.material), tr("not in the materials file"));
    m_material->setCurrentText(QString::fromStdString(b.material));
    m_density->setText(m_material->currentData().toString());
    m_pull->setCurrentIndex(b.pull == "up" ? 0 : b.pull == "front" ? 1 : 2);
    m_length->setCurrentText(QString::fromStdString(b.units.length));
    for (auto [field, text] : {std::pair{m_purpose, &b.purpose}, {m_caution, &b.caution}})
        if (field->toPlainText().toStdString() != *text) field->setPlainText(QString::fromStdString(*text));
    showTargets();
    m_values->setRowCount(static_cast<int>(part.values.size()));
    for (int i = 0; i < m_values->rowCount(); ++i) {
        const NamedValue& v = part.values[static_cast<std::size_t>(i)];
        put(m_values, i, 0, QString::fromStdString(v.name));
        put(m_values, i, 1, QString::fromStdString(v.expression));
        put(m_values, i, 2, QString::fromStdString(v.note));
        QStringList uses;
        for (const std::string& use : usesOfValue(part, v.name)) uses << QString::fromStdString(use);
        put(m_values, i, 3, uses.isEmpty() ? tr("nowhere yet") : uses.join(QStringLiteral("; ")));
        m_values->item(i, 3)->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        m_values->item(i, 3)->setToolTip(uses.join(QLatin1Char('\n')));
    }
    // Tables stand whole on the page, which scrolls; one bar is enough.
    for (QTableWidget* t : {m_targets, m_values})
        t->setFixedHeight(t->horizontalHeader()->sizeHint().height() +
                          kRowHeight * std::max(1, t->rowCount()) + 4);
    m_filling = false;
}

} // namespace gc::app
