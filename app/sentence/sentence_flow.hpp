#pragma once
/// \file A step's sentence as words in a line, with slots that are changed in place.

#include "core/document/areas.hpp"

#include <QLineEdit>
#include <QWidget>

#include <memory>

class QMenu;

namespace gc::app {

class SentenceFlow : public QWidget {
    Q_OBJECT
  public:
    enum class Size { Sheet, Bar };
    explicit SentenceFlow(Size size, QWidget* parent = nullptr);

    /// The part is shared by all the sentences of a sheet; the values are the part's.
    void setSentence(const Step& step, std::shared_ptr<const Part> part, const Values& values);
    void setFaded(bool faded) { m_faded = faded; }
    void setActiveSlot(const QString& slot);
    QString activeSlot() const { return m_active; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;
    QSize sizeHint() const override;
    /// Where a slot is, for tests and for hints; empty when it is not in the sentence.
    QRect slotRect(const QString& slot) const;
    /// Where one of several that a slot holds is let go of.
    QRect crossRect(const QString& slot, int item) const;
    void edit(const QString& slot);

  Q_SIGNALS:
    void typed(const QString& slot, const QString& text);               ///< Enter
    void scrubbed(const QString& slot, const QString& text, bool done); ///< dragged; done on release
    void chosen(const QString& slot, const QString& text);              ///< from a list
    void tableAsked(const QString& slot);
    void pickAsked(const QString& slot);       ///< fill by clicking in the stand
    void fileAsked(const QString& slot);       ///< another one than those that the part holds
    void letGo(const QString& slot, int item); ///< of one of several
    void pressedElsewhere();

  protected:
    void paintEvent(QPaintEvent* e) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void leaveEvent(QEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    struct Word {
        QString text, slot, expression;
        QRect rect;
        bool joinsLeft = false;
        int item = -1; ///< which of several that the slot holds
        bool says(const Word& o) const {
            return text == o.text && slot == o.slot && expression == o.expression &&
                   joinsLeft == o.joinsLeft && item == o.item;
        }
    };
    QFont fontOf(const Word& w) const;
    QList<QRectF> linesOf(const Word& w, double width) const;
    int layOut(int width, std::vector<Word>& words) const;
    void relayOut();
    int wordAt(QPoint p) const;
    const SlotWords* slotWords(const QString& slot) const;
    QString rawText(const QString& slot) const;
    void openMenu(const Word& word);
    void openPickMenu(const Word& word, const SlotWords& slot);
    void addPick(QMenu* menu, const Word& word);
    void openBodies(const Word& word);
    static QRect crossOf(const Word& w);
    void addArea(QMenu* menu, const Word& word, const AreaChoice& area);
    void openChoices(const Word& word, const SlotWords& slot);
    void closeEditor(bool keep);
    void growEditor();
    void scrub(int pixels, bool done);

    Size m_size;
    Step m_step;
    std::shared_ptr<const Part> m_part = std::make_shared<const Part>();
    std::vector<Word> m_words;
    mutable int m_knownWidth = -1, m_knownHeight = 0; ///< of the last layout that was asked for
    bool m_faded = false;
    QString m_active;
    int m_hover = -1, m_press = -1;
    QPoint m_pressAt;
    bool m_scrubbing = false;
    QString m_scrubStart;
    QLineEdit* m_editor = nullptr;
    QString m_editing;
};

} // namespace gc::app
