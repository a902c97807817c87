#pragma once
/// \file The sentence bar: a new step as a sentence with slots, previewed live; or a verb being typed.

#include "app/sentence_flow.hpp"
#include "app/session.hpp"

#include <QLineEdit>
#include <optional>

namespace gc::app {

class SentenceBar : public QWidget {
    Q_OBJECT
  public:
    explicit SentenceBar(Session* session, QWidget* parent = nullptr);

    void begin(const QString& kind);
    void drop();
    bool active() const { return m_draft.has_value(); }
    const std::optional<Step>& draft() const { return m_draft; }
    /// The part with the draft put in at the bookmark.
    Part withDraft() const;
    /// A reference from the stand: fills the slot that waits for one.
    void fill(const QStringList& refs, bool edge);
    /// What the slot that takes picks holds now.
    References references() const;
    void sayOtherwise(const QString& was, const QString& now);
    void say(const QString& text);
    SentenceFlow* sentence() const { return m_flow; }
    QLineEdit* verbField() const { return m_verb; }
    bool wantsFaces() const;
    bool wantsEdges() const;
    bool keep();
    void turnRound();

  Q_SIGNALS:
    void draftChanged(); ///< preview it
    void kept(const Part& part, const QString& what);
    void dropped();
    void verbTyped(const QString& kind);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    void set(const QString& slot, const SlotValue& value);
    void refresh();
    QString pickSlot() const;
    QString offered() const;

    Session* m_session;
    SentenceFlow* m_flow;
    QLineEdit* m_verb;
    std::optional<Step> m_draft;
    Part m_part; ///< the part with the id that the draft has taken
    QString m_message;
};

} // namespace gc::app
