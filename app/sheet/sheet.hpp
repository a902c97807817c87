#pragma once
/// \file The build sheet: the steps as numbered sentences, the bookmark between them.

#include "app/link/scene.hpp"
#include "app/sentence/sentence_flow.hpp"
#include "app/shell/session.hpp"

#include <QScrollArea>

#include <memory>
#include <optional>
#include <set>

namespace gc::app {

class ForgeLink;

/// One step: number, sentence, margin, and its failure with the ways out of it.
class StepRow : public QWidget {
    Q_OBJECT
  public:
    StepRow(int id, QWidget* parent);
    /// What all rows of a sheet share, and the row's place in it from 1.
    struct Around {
        std::shared_ptr<const Part> part;
        const Values& values;
        std::uint64_t spoken = 0;
        int number = 0;
    };
    /// Costs nothing where nothing of it changed.
    void show(const Step& step, const Around& around, const StepView& view, const OutlineView* outline,
              bool later);
    /// Its sentence was changed from outside: the next show() says all anew.
    void forgetShown() { m_step.reset(); }
    void setChosen(bool chosen);
    int id() const { return m_id; }
    SentenceFlow* sentence() const { return m_flow; }
    QRect remedyRect(int i) const {
        return i < static_cast<int>(m_remedyRects.size()) ? m_remedyRects[static_cast<std::size_t>(i)]
                                                          : QRect();
    }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;
    QSize sizeHint() const override { return {280, heightForWidth(width())}; }

  Q_SIGNALS:
    void chosen(int id);
    void offAsked(int id);
    void deleteAsked(int id);
    void remedyAsked(const RemedyView& remedy);
    /// Which of several is meant: to be shown in the stand, or answered here.
    void whichAsked(int id);
    void answered(int id, const QString& about, const QString& answer);
    void dragged(int id, const QPoint& global, bool done);
    void pointedAt(int id); ///< 0: no longer

  protected:
    void enterEvent(QEnterEvent*) override { Q_EMIT pointedAt(m_id); }
    void leaveEvent(QEvent*) override { Q_EMIT pointedAt(0); }
    void paintEvent(QPaintEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void contextMenuEvent(QContextMenuEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;

  private:
    QStringList marginLines() const;
    /// What is wrong with it, or what is to be known of it.
    QString told() const;
    /// The lines below what is wrong that can be clicked: tried remedies, then answers to a question.
    QStringList ways() const;
    void takeWay(std::size_t i);
    int errorHeight(int width) const;
    int wayHeight(const QString& way, int width) const;
    void openMenu(const QPoint& global);

    int m_id, m_number = 0;
    std::optional<Step> m_step; ///< as it is shown
    std::shared_ptr<const Part> m_part;
    std::uint64_t m_spoken = 0;
    SentenceFlow* m_flow;
    StepView m_view;
    bool m_off = false, m_later = false, m_chosen = false;
    double m_residual = -1;
    std::vector<QRect> m_remedyRects;
    QPoint m_pressAt;
    bool m_pressed = false, m_dragging = false;
};

/// The movable line "you are here".
class BookmarkRow : public QWidget {
    Q_OBJECT
  public:
    explicit BookmarkRow(QWidget* parent);
    QSize sizeHint() const override { return {200, 22}; }

  Q_SIGNALS:
    void dragged(const QPoint& global, bool done);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
};

class Sheet : public QWidget {
    Q_OBJECT
  public:
    Sheet(Session* session, ForgeLink* forge, QWidget* parent = nullptr);
    StepRow* row(int id) const;
    BookmarkRow* bookmark() const { return m_bookmark; }
    int chosen() const { return m_chosen; }
    void choose(int id);
    /// Puts the answer to "Which one?" into a step.
    void answer(int step, const QString& about, const QString& answer);
    /// Sizes, and what goes with them, that are changed by dragging in the stand.
    void dragSizes(int step, const SlotValues& values, bool done);
    /// A size that is typed in the stand.
    void typeSize(int step, const QString& slot, const QString& text) { typed(step, slot, text); }

  Q_SIGNALS:
    void tableAsked(int step);
    void pickAsked(int step, const QString& slot);
    void whichAsked(int step);
    void previewAsked(const Part& part);
    void message(const QString& text);
    void stepChosen(int id);
    void stepPointedAt(int id); ///< 0: none any more

  protected:
    void resizeEvent(QResizeEvent* e) override;
    void paintEvent(QPaintEvent* e) override;

  private:
    void rebuild();
    void refresh();
    void place();
    void replaceFile(int step, const QString& slot);
    void typed(int step, const QString& slot, const QString& text);
    void scrubbed(int step, const QString& slot, const QString& text, bool done);
    void setSlot(int step, const QString& slot, const QString& text, const QString& said = {});
    void take(const RemedyView& remedy);
    void dropStep(int id, const QPoint& global, bool done);
    void dropBookmark(const QPoint& global, bool done);
    int gapAt(const QPoint& global) const;
    void tellOfTrial();

    Session* m_session;
    ForgeLink* m_forge;
    QScrollArea* m_scroll;
    QWidget* m_list;
    std::vector<StepRow*> m_rows;
    BookmarkRow* m_bookmark;
    QWidget* m_gap; ///< shows where a dragged row would go
    int m_chosen = 0;
    int m_triedPlace = -1;      ///< where a dragged step is tried
    std::set<int> m_failBefore; ///< steps that fail in the order that is kept
};

} // namespace gc::app
