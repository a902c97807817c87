#pragma once
/// \file The gauges along the bottom: one a target, with its allowed zone and a mark.

#include "app/link/scene.hpp"
#include "core/document/part.hpp"

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
    /// What is shown is of before a sentence that is open: it is measured when that is kept.
    void setWaiting(bool waiting);
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

  private:
    void paintGauge(QPainter& p, int i) const;
    void paintWords(QPainter& p, const TargetView& g, const QRect& in) const;
    static void paintBand(QPainter& p, const TargetView& g, const QRectF& band);
    int at(QPoint p) const;
    std::vector<TargetView> m_targets;
    bool m_measuring = true, m_waiting = false;
    int m_active = -1, m_hover = -1;
};

} // namespace gc::app
