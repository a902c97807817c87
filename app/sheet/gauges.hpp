#pragma once
/// \file The gauges along the bottom: one a target, with its allowed zone and a mark.

#include "app/link/scene.hpp"
#include "core/document/part.hpp"

#include "app/look/walk.hpp"

#include <QWidget>

namespace gc::app {

/// Verdict by shape and word first, colour second.
QString verdictText(const QString& verdict);
QColor verdictColour(const QString& verdict);

/// What a part is asked, with what was measured of it before; all of it is being measured.
std::vector<TargetView> targetsOf(const Part& part, const std::vector<TargetView>& measured);

class Gauges : public QWidget {
    Q_OBJECT
  public:
    explicit Gauges(QWidget* parent = nullptr);
    void setTargets(const std::vector<TargetView>& targets, bool measuring);
    /// What is shown is of before what is tried now, and stays: that is not measured. \param why in the
    /// verdicts' place; empty: gauges follow the targets again
    void setWaiting(const QString& why);
    /// What each gauge says: "Mass 75.9 g after Enter".
    QString words(int index) const;
    void setActive(int index);
    QRect gaugeRect(int index) const;
    QSize sizeHint() const override { return {800, 74}; }

  Q_SIGNALS:
    void clicked(int index);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void leaveEvent(QEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;

  private:
    void paintGauge(QPainter& p, int i) const;
    void paintWords(QPainter& p, const TargetView& g, const QRect& in) const;
    QString verdictOf(const TargetView& g) const;
    QString sign(const TargetView& g) const;
    static QString valueText(const TargetView& g);
    static void paintBand(QPainter& p, const TargetView& g, const QRectF& band);
    int at(QPoint p) const;
    std::vector<TargetView> m_targets;
    bool m_measuring = true;
    QString m_waiting; ///< empty: for nothing
    int m_active = -1, m_hover = -1;
    Walk m_walk;
};

} // namespace gc::app
