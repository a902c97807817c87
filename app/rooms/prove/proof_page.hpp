#pragma once
/// \file The proof board: claim, measured, allowed, verdict, where; and ways out of what fails.

#include "app/link/scene.hpp"
#include "app/shell/session.hpp"

#include <QWidget>

#include <array>

namespace gc::app {

class ForgeLink;

/// The proof board: claim, measured, allowed, verdict, where; and ways out of what fails.
class ProofPage : public QWidget {
    Q_OBJECT
  public:
    ProofPage(Session* session, ForgeLink* forge, QWidget* parent = nullptr);
    void setActive(int index);
    QRect rowRect(int i) const;
    QRect remedyRect(int i) const;

  Q_SIGNALS:
    void targetClicked(int index);
    void remedyTaken(const RemedyView& remedy);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;

  private:
    std::array<int, 5> columns() const;
    void paintHeading(QPainter& p) const;
    void paintRow(QPainter& p, int i) const;
    int paintAdvice(QPainter& p, int after) const;
    void paintCaution(QPainter& p, int below) const;

    Session* m_session;
    ForgeLink* m_forge;
    int m_active = -1, m_solving = -1;
    std::vector<RemedyView> m_remedies;
    int m_solvedFor = -1;
};

} // namespace gc::app
