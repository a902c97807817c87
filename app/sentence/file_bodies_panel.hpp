#pragma once
/// \file The bodies of a file that is brought in, as a list beside the part: each with a small picture, its
/// name and its size, taken or not by a click. Nothing is there where a file holds but one.

#include "app/link/scene.hpp"

#include <QFrame>

class QLabel;
class QListWidget;
class QListWidgetItem;

namespace gc::app {

class FileBodiesPanel : public QFrame {
    Q_OBJECT
  public:
    explicit FileBodiesPanel(QWidget* parent);
    /// Hides where there are none.
    void offer(const std::vector<FileBodyView>& bodies);
    QListWidget* list() const { return m_list; } ///< for tests

  Q_SIGNALS:
    /// As the slot holds it: the names of those that are taken; empty: all of them.
    void taken(const QString& names);

  protected:
    bool eventFilter(QObject* watched, QEvent* e) override;

  private:
    void fill(const std::vector<FileBodyView>& bodies);
    void takeAll();
    void takeOnly(QListWidgetItem* item);
    void changed(QListWidgetItem* item);
    void tell();
    void place();

    QLabel* m_title;
    QListWidget* m_list;
    std::vector<FileBodyView> m_bodies;
    bool m_filling = false;
    Qt::CheckState m_pressed = Qt::Unchecked; ///< of the row under the pointer, before the click
};

} // namespace gc::app
