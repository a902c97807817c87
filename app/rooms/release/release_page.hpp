#pragma once
/// \file The files that others are given.

#include <QPushButton>
#include <QWidget>

#include <map>

namespace gc::app {

class ReleasePage : public QWidget {
    Q_OBJECT
  public:
    explicit ReleasePage(QWidget* parent = nullptr);
    QPushButton* button(const QString& ending) const;

  Q_SIGNALS:
    void exportAsked(const QString& ending);
    void proofSheetAsked(const QString& ending);

  private:
    std::map<QString, QPushButton*> m_buttons;
};

} // namespace gc::app
