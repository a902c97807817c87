#include "app/sentence/sentence_bar.hpp"

#include "app/look/theme.hpp"
#include "app/look/words.hpp"
#include "app/sentence/take_file.hpp"
#include "app/table/drawing_table.hpp"
#include "core/document/edit_words.hpp"
#include "core/document/slot_trait.hpp"

#include <QKeyEvent>
#include <QPainter>
#include <QRegularExpression>

#include <algorithm>
#include <utility>

namespace gc::app {

Picking pickingFor(SlotType type) {
    using Picks = SlotTrait::Picks;
    switch (traitOf(type).picks) {
    case Picks::Faces:
        return Picking::Faces;
    case Picks::Edges:
        return Picking::Edges;
    case Picks::Curves:
        return Picking::Curves;
    case Picks::Sections:
        return Picking::Sections;
    case Picks::Points:
        return Picking::Points;
    case Picks::Planes:
        return Picking::Planes;
    case Picks::Axes:
        return Picking::Axes;
    case Picks::Bodies:
        return Picking::Bodies;
    case Picks::Regions:
        return Picking::Areas;
    case Picks::Nothing:
        break;
    }
    return Picking::Nothing;
}

namespace {

QString whatToPick(SlotType type) {
    switch (pickingFor(type)) {
    case Picking::Faces:
        return SentenceBar::tr("Pick a face in the stand first.");
    case Picking::Sections:
        return SentenceBar::tr("Pick a drawing, a face or a point in the stand first.");
    case Picking::Points:
        return SentenceBar::tr("Pick a point in the stand first.");
    case Picking::Planes:
        return SentenceBar::tr("Pick a plane or a flat face in the stand first.");
    case Picking::Axes:
        return SentenceBar::tr("Pick an edge, a drawn line or a round face in the stand first.");
    case Picking::Bodies:
        return SentenceBar::tr("Choose a body from the list, or click it in the stand.");
    default:
        return SentenceBar::tr("Pick an edge in the stand first.");
    }
}

} // namespace

SentenceBar::SentenceBar(Session* session, QWidget* parent) : QWidget(parent), m_session(session) {
    m_flow = new SentenceFlow(SentenceFlow::Size::Bar, this);
    m_flow->hide();
    m_verb = new QLineEdit(this);
    m_verb->setObjectName(QStringLiteral("verbField"));
    m_verb->setFont(textFont(15));
    m_verb->setPlaceholderText(tr("Type a verb: shell, fillet, hole …"));
    m_verb->installEventFilter(this);
    m_verb->setFocusPolicy(Qt::ClickFocus);
    connect(m_verb, &QLineEdit::textChanged, this, [this] { update(); });
    auto setText = [this](const QString& slot, const QString& text) {
        m_scrubbed.clear();
        set(slot, text.toStdString());
    };
    connect(m_flow, &SentenceFlow::typed, this, setText);
    connect(m_flow, &SentenceFlow::chosen, this, setText);
    connect(m_flow, &SentenceFlow::scrubbed, this,
            [this](const QString& slot, const QString& text, bool done) {
                set(slot, text.toStdString());
                m_scrubbed = done ? QString() : slot;
            });
    connect(m_flow, &SentenceFlow::pickAsked, this, [this](const QString& slot) {
        m_flow->setActiveSlot(slot); // what it holds stays: picks are added and let go of one by one
        Q_EMIT draftChanged();       // the stand picks something else now
    });
    connect(m_flow, &SentenceFlow::tableAsked, this, [this] { keep(); });
    connect(m_flow, &SentenceFlow::fileAsked, this, [this, setText](const QString& slot) {
        const StepWords* words = findWords(m_draft->kind);
        const TakenFile taken = takeFile(this, *words, *words->slot(slot.toStdString()), m_part);
        if (!taken.fault.isEmpty()) say(taken.fault);
        if (!taken.name.empty()) setText(slot, QString::fromStdString(taken.name));
    });
    connect(m_flow, &SentenceFlow::letGo, this, &SentenceBar::letGo);
    setMouseTracking(true);
    setMinimumHeight(58);
}

void SentenceBar::begin(const QString& kind) {
    m_part = m_session->part();
    m_several = {};
    m_draft = newStep(m_part, kind.toStdString());
    m_isEdit = false;
    forgetChanges();
    m_message.clear();
    const StepWords* words = findStepWords(m_draft->kind);
    const auto file = std::find_if(words->slots.begin(), words->slots.end(), [](const SlotWords& s) {
        return traitOf(s.type).holds == SlotTrait::Holds::File;
    });
    if (file != words->slots.end()) {
        const TakenFile taken = takeFile(this, *words, *file, m_part);
        if (taken.name.empty()) {
            drop();
            if (!taken.fault.isEmpty()) say(taken.fault);
            return;
        }
        m_draft->slots[file->key] = taken.name;
    }
    m_verb->clear();
    refresh();
    m_flow->setActiveSlot(pickSlot());
    setFocus();
    Q_EMIT draftChanged();
}

void SentenceBar::beginEdit(const Step& edit, Values names) {
    m_names = std::move(names);
    m_part = m_session->part();
    m_draft = edit;
    m_isEdit = true;
    forgetChanges();
    m_message.clear();
    m_verb->clear();
    refresh();
    const StepWords* words = findWords(edit.kind);
    if (!words->slots.empty()) m_flow->setActiveSlot(QString::fromStdString(words->slots.front().key));
    setFocus();
    Q_EMIT editChanged(edit);
}

void SentenceBar::drop() {
    const bool was = m_draft.has_value(), edit = std::exchange(m_isEdit, false);
    m_draft.reset();
    forgetChanges();
    refresh();
    if (was && edit) Q_EMIT editDropped();
    if (was && !edit) Q_EMIT dropped();
}

Part SentenceBar::withDraft() const {
    Part p = m_part;
    if (!m_draft) return p;
    const int at = p.shownSteps();
    p.steps.insert(p.steps.begin() + at, *m_draft);
    if (p.bookmark >= 0) p.bookmark = at + 1;
    return p;
}

bool SentenceBar::keep() {
    if (!m_draft) return false;
    const Part p = withDraft();
    const StepWords* words = findWords(m_draft->kind);
    for (const SlotWords& s : words->slots) {
        QString fault;
        if (!isShown(*m_draft, s.key)) continue;
        if (pickingFor(s.type) != Picking::Nothing && mustBeFilled(s) && isEmpty(s))
            fault = whatToPick(s.type);
        else if (traitOf(s.type).holds == SlotTrait::Holds::Number) {
            if (const auto v = evaluateSlot(*m_draft, s.key, p, names()); !v)
                fault = inWords(v.error().sentence);
        }
        if (!fault.isEmpty()) {
            say(QStringLiteral("■ ") + fault);
            m_flow->setActiveSlot(QString::fromStdString(s.key));
            return false;
        }
    }
    if (m_isEdit) {
        const Step edit = *m_draft;
        Q_EMIT editKept(edit);
        return !m_draft;
    }
    const QString what = tr("%1 added").arg(QString::fromStdString(words->verb).toLower());
    m_draft.reset();
    forgetChanges();
    refresh();
    Q_EMIT kept(p, what);
    return true;
}

void SentenceBar::set(const QString& slot, const SlotValue& value) {
    if (!m_draft) return;
    const Step before = *m_draft;
    m_draft->slots[slot.toStdString()] = value;
    if (m_scrubbed.isEmpty() || m_scrubbed != slot) remember(before);
    m_message.clear();
    m_fault.clear();
    m_way.reset();
    if (std::holds_alternative<std::string>(value)) {
        const StepWords* words = findWords(m_draft->kind);
        const SlotWords* s = words->slot(slot.toStdString());
        if (traitOf(s->type).holds == SlotTrait::Holds::Number)
            if (const auto v = evaluateSlot(*m_draft, s->key, m_part, names()); !v)
                say(QStringLiteral("■ ") + inWords(v.error().sentence));
        if (!s->choices.empty()) { // another way asks for other things
            m_flow->setActiveSlot({});
            m_flow->setActiveSlot(pickSlot());
        }
    }
    tellChanged();
}

void SentenceBar::refresh() {
    m_flow->setVisible(m_draft.has_value());
    m_verb->setVisible(!m_draft);
    if (m_draft) m_flow->setSentence(*m_draft, std::make_shared<const Part>(m_part), names());
    resizeEvent(nullptr);
    update();
}

void SentenceBar::resizeEvent(QResizeEvent*) {
    const int room = width() - 20 - (m_draft ? 226 : 0);
    if (m_draft) {
        const int h = m_flow->heightForWidth(room);
        setFixedHeight(std::max(58, h + 22));
        // A message stands above the sentence; the bar keeps its height, so that nothing else moves.
        const int top = shownMessage().isEmpty() ? (height() - h) / 2 : std::max((height() - h) / 2, 20);
        m_flow->setGeometry(18, top, room, h);
    } else
        setFixedHeight(58);
    m_verb->setGeometry(14, 12, std::min(300, width() / 2 - 20), 34);
}

SentenceBar::Offered SentenceBar::offered() const {
    const QString typed = m_verb->text().trimmed().toLower();
    if (typed.isEmpty()) return {};
    QList<Offered> all;
    if (m_tableWords) {
        for (const ToolKind& t : allTools()) all << Offered{QStringLiteral("tool:") + t.key, t.label, t.tip};
        for (const StepWords& w : allEditWords())
            all << Offered{QString::fromStdString(w.kind), inWords(w.verb), inWords(w.purpose)};
    }
    for (const StepKind& k : allKinds())
        all << Offered{QString::fromStdString(k.key()), inWords(k.words.verb), inWords(k.words.purpose)};
    all << Offered{kMeasure, tr("Measure"), tr("Distances, angles, radii of what is clicked in the stand")};
    for (const Offered& o : all)
        if (o.verb.toLower().startsWith(typed) || o.kind.startsWith(typed)) return o;
    // What is not called so itself may do it: "gusset", "bend".
    constexpr int kTelling = 3; // letters
    if (typed.size() < kTelling) return {};
    const QRegularExpression word(QStringLiteral("\\b") + QRegularExpression::escape(typed));
    for (const Offered& o : all)
        if (o.purpose.toLower().contains(word)) return o;
    return {};
}

bool SentenceBar::eventFilter(QObject* o, QEvent* e) {
    if (o == m_verb && e->type() == QEvent::ShortcutOverride) {
        auto* key = static_cast<QKeyEvent*>(e); // undo is the part's, not the field's
        if (key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo)) {
            e->ignore();
            return true;
        }
    }
    if (o == m_verb && e->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(e)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            if (const QString kind = offered().kind; !kind.isEmpty()) {
                m_verb->clear();
                m_verb->clearFocus();
                Q_EMIT verbTyped(kind);
            } else if (!m_verb->text().trimmed().isEmpty())
                say(tr("■ There is no verb that begins with \"%1\".").arg(m_verb->text()));
            return true;
        }
        if (key == Qt::Key_Escape) {
            m_verb->clear();
            m_verb->clearFocus();
            return true;
        }
    }
    return QWidget::eventFilter(o, e);
}

void SentenceBar::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Theme& t = theme();
    p.fillRect(rect(), t.card);
    p.setPen(t.line);
    p.drawLine(0, 0, width(), 0);
    if (!m_draft && !m_said.isEmpty()) {
        p.setFont(textFont(12));
        p.setPen(t.inkSoft);
        p.drawText(saidRect(), Qt::AlignCenter, tr("said before"));
    }
    if (const QString message = shownMessage(); !message.isEmpty()) {
        p.setFont(textFont(13, QFont::DemiBold));
        p.setPen(message.startsWith(QStringLiteral("■")) ? t.fail : t.ink);
        const QString fits =
            m_draft ? p.fontMetrics().elidedText(message, Qt::ElideRight, messageRect().width()) : message;
        p.drawText(messageRect(), Qt::AlignVCenter | Qt::AlignLeft | Qt::TextWordWrap, fits);
        if (!m_draft) return;
        paintWay(p);
    }
    p.setFont(textFont(12));
    p.setPen(t.inkSoft);
    if (m_draft) {
        const bool turns =
            std::any_of(findWords(m_draft->kind)->slots.begin(), findWords(m_draft->kind)->slots.end(),
                        [](const SlotWords& s) { return !s.choices.empty(); });
        const QString line = tr("Enter keeps · Esc drops%1").arg(turns ? tr(" · Alt+R turns") : QString());
        p.drawText(QRect(width() - 222, 0, 208, height()),
                   Qt::AlignRight | Qt::AlignVCenter | Qt::TextWordWrap, line);
    } else if (const Offered o = offered(); !o.kind.isEmpty()) {
        p.setPen(t.ink);
        const QRect room(m_verb->geometry().right() + 18, 0, width() - m_verb->geometry().right() - 30,
                         height());
        p.drawText(room, Qt::AlignVCenter,
                   p.fontMetrics().elidedText(tr("Enter: %1 – %2").arg(o.verb, o.purpose), Qt::ElideRight,
                                              room.width()));
    } else
        p.drawText(
            QRect(m_verb->geometry().right() + 18, 0, width() - m_verb->geometry().right() - 34, height()),
            Qt::AlignVCenter, tr("Click a number in the sheet to change it, or drag it."));
}

} // namespace gc::app
