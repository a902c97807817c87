#pragma once
/// \file A card to choose: a picture or a pictogram, what it is, and a line about it.

#include <QAbstractButton>
#include <QPixmap>

namespace gc::app {

class StartCard : public QAbstractButton {
    Q_OBJECT
  public:
    /// \param pictogram a verb, see pictogram.hpp; empty with a picture
    StartCard(const QString& title, const QString& about, const QString& pictogram, QWidget* parent);
    void setPicture(const QPixmap& picture);
    QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* e) override;
    void enterEvent(QEnterEvent* e) override;
    void leaveEvent(QEvent* e) override;

  private:
    QString m_about, m_pictogram;
    QPixmap m_picture;
};

} // namespace gc::app
