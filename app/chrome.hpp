#pragma once
/// \file The stage line above and the verbs on the left.

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

  private:
    QString m_title, m_state, m_stage = QStringLiteral("Form");
    QString m_hover;
};

/// The verbs of a stage, grouped by what a person wants.
class VerbPanel : public QWidget {
    Q_OBJECT
  public:
    explicit VerbPanel(QWidget* parent = nullptr);
    void setStage(const QString& stage);
    void setActive(const QString& kind);
    QRect verbRect(const QString& kind) const;

  Q_SIGNALS:
    void verbAsked(const QString& kind);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void leaveEvent(QEvent* e) override;

  private:
    struct Item {
        QString kind, text, tip;
        QRect rect;
        bool heading = false;
    };
    void layOut();
    QString m_stage, m_active, m_hover;
    std::vector<Item> m_items;
};

/// Draws a verb's pictogram in a square, one stroke style for all.
void drawPictogram(class QPainter& p, const QString& kind, const QRectF& box);

} // namespace gc::app
