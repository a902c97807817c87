#pragma once
/// \file The stage line above and the verbs on the left.

#include "app/look/walk.hpp"

#include <QStringList>
#include <QWidget>

namespace gc::app {

QStringList stageNames(); ///< as in the file: Brief, Outline, Form, Finish, Prove, Release

class StageLine : public QWidget {
    Q_OBJECT
  public:
    explicit StageLine(QWidget* parent = nullptr);
    void setTitle(const QString& name, const QString& state);
    void setStage(const QString& stage);
    QString stage() const { return m_stage; }
    QRect stageRect(const QString& stage) const;

  Q_SIGNALS:
    void stageAsked(const QString& stage);
    void menuAsked(const QPoint& global);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;

  private:
    QRect titleRect() const;
    QString m_title, m_state, m_stage = QStringLiteral("Form");
    QString m_hover;
    Walk m_walk; ///< 0: the menu, then the stages
};

/// The verbs of a stage, grouped by what a person wants.
class VerbPanel : public QWidget {
    Q_OBJECT
  public:
    explicit VerbPanel(QWidget* parent = nullptr);
    void setStage(const QString& stage);
    void setActive(const QString& kind);
    /// A drawing lies on the table: its tools stand there instead of the stage's verbs.
    void showTools(bool on);
    /// Of a verb by its kind, of a tool by "tool:" and its key.
    QRect verbRect(const QString& kind) const;

  Q_SIGNALS:
    void verbAsked(const QString& kind);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void leaveEvent(QEvent* e) override;
    void wheelEvent(QWheelEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;

  private:
    struct Item {
        QString kind, text, tip;
        QRect rect;
        bool heading = false;
    };
    struct Verb {
        QString kind, text, tip;
    };
    struct Group {
        QString name;
        std::vector<Verb> verbs;
    };
    void collect();
    void layOut();
    void place();
    void add(const QString& group, const QString& kind, const QString& text, const QString& tip);
    QString m_stage, m_active, m_hover;
    bool m_tools = false;
    std::vector<const Item*> verbs() const;
    Walk m_walk;
    std::vector<Item> m_items;
    std::vector<Group> m_groups;
    int m_row = 32, m_gap = 12;    ///< px
    int m_whole = 0, m_scroll = 0; ///< px: what all of it takes, and how much is above the edge
};

} // namespace gc::app
