#pragma once
/// \file The sentence bar: a new step as a sentence with slots, previewed live; or a verb being typed.

#include "app/link/scene.hpp"
#include "app/sentence/sentence_flow.hpp"
#include "app/shell/session.hpp"

#include <QLineEdit>
#include <optional>

namespace gc::app {

/// The verb that is no step: see Measuring.
inline const QString kMeasure = QStringLiteral("measure");

/// What clicks in the stand may pick for a slot.
Picking pickingFor(SlotType type);

class SentenceBar : public QWidget {
    Q_OBJECT
  public:
    explicit SentenceBar(Session* session, QWidget* parent = nullptr);

    void begin(const QString& kind);
    /// A sentence about the drawing on the table: it is kept there, not in the sheet.
    /// \param names what can be named in its figures
    void beginEdit(const Step& edit, Values names);
    /// Puts a text into a slot of the sentence, as if it was typed.
    void fillText(const QString& slot, const QString& text) { set(slot, text.toStdString()); }
    bool editing() const { return m_draft && m_isEdit; }
    /// While a drawing lies on the table its tools and edits can be typed too.
    void showTableWords(bool on) { m_tableWords = on; }
    void drop();
    bool active() const { return m_draft.has_value(); }
    const std::optional<Step>& draft() const { return m_draft; }
    /// The part with the draft put in at the bookmark.
    Part withDraft() const;
    /// A reference from the stand: fills the slot that waits for one.
    void fill(const Pick& pick);
    /// Several at once: those that are there already stay.
    void fillSeveral(const QStringList& refs);
    /// Sizes that are dragged in the stand.
    void drag(const SlotValues& values, bool done);
    /// A slot of the sentence is still empty that is filled by picking.
    bool waitsForPick() const;
    /// What the slot that waits for a pick takes.
    Picking wants() const;
    /// And whether it takes more than one.
    bool wantsSeveral() const;
    /// What the slot that takes picks holds now.
    References references() const;
    /// Takes back the last change of the sentence, or drops it when there was none. \return false: no
    /// sentence
    bool undo();
    bool redo();
    /// Why the sentence cannot be built as it stands; empty when it can.
    /// \param ways what would mend it, each one click; those of other steps are left to the sheet
    void showFault(const QString& fault, const std::vector<RemedyView>& ways = {});
    void sayOtherwise(const QString& was, const QString& now);
    /// What went well goes after a while; what did not (■, ▲) stays until it is clicked, or something else is
    /// said or begun. All of it can be read again in the list of what was said.
    void say(const QString& text);
    QString message() const { return m_message; }
    QString fault() const { return m_fault; }
    /// For tests: what is clicked to put a message away, and to open the list of what was said before.
    QRect messageRect() const;
    QRect saidRect() const;
    /// What is clicked to take the way out that is offered; empty where none is.
    QRect wayRect() const;
    /// Takes it. Also by Alt and Enter.
    void takeWay();
    /// The last messages, the newest first, each with its time.
    QStringList said() const { return m_said; }
    SentenceFlow* sentence() const { return m_flow; }
    QLineEdit* verbField() const { return m_verb; }
    bool keep();
    void turnRound();

  Q_SIGNALS:
    void draftChanged(); ///< preview it
    void kept(const Part& part, const QString& what);
    void dropped();
    void verbTyped(const QString& kind);
    void editChanged(const gc::Step& edit);
    void editKept(const gc::Step& edit); ///< drop() when it is done
    void editDropped();

  protected:
    void paintEvent(QPaintEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;
    bool eventFilter(QObject* o, QEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;

  private:
    void putAway();
    void remember(const Step& before);
    void step(std::vector<Step>& from, std::vector<Step>& to);
    void tellChanged();
    void forgetChanges();
    Values names() const { return m_isEdit ? m_names : valuesOf(m_part); }
    QString shownMessage() const { return m_message.isEmpty() && m_draft ? m_fault : m_message; }
    void openSaid();
    void paintWay(QPainter& p);
    void set(const QString& slot, const SlotValue& value);
    void refresh();
    QString pickSlot() const;
    QString nextSlot(const QString& from) const;
    bool isEmpty(const SlotWords& slot) const;
    bool takesPicks(const SlotWords& slot) const;
    SlotValue withArea(const SlotWords& slot, const Pick& pick);
    void letGo(const QString& slot, int item);
    bool isOwn(const QString& reference) const;
    struct Offered {
        QString kind, verb, purpose;
    };
    Offered offered() const;

    Session* m_session;
    SentenceFlow* m_flow;
    QLineEdit* m_verb;
    std::optional<Step> m_draft;
    bool m_isEdit = false, m_tableWords = false;
    Part m_part; ///< the part with the id that the draft has taken
    QString m_message;
    QStringList m_said;
    Values m_names;                      ///< within the drawing that is edited
    QString m_fault;                     ///< of the draft as it stands
    std::optional<RemedyView> m_way;     ///< and what would mend it
    std::vector<Step> m_before, m_after; ///< the draft before its last changes, and after those taken back
    /// The drawing that was looked at last, and whether it has several areas.
    mutable std::pair<const Drawing*, bool> m_several{};
    QString m_scrubbed; ///< the slot that is being dragged: one change
};

} // namespace gc::app
