#pragma once
/// \file What of a part of several bodies goes into a file of triangles, which knows no bodies: asked before
/// it is written.

#include "app/link/scene.hpp"

#include <QDialog>

#include <vector>

class QCheckBox;
class QPushButton;

namespace gc::app {

class ExportChoice : public QDialog {
    Q_OBJECT
  public:
    struct Body {
        ThingId id;
        QString name;
        bool hidden = false;
        bool aside = false; ///< no part of the product
    };
    ExportChoice(const std::vector<Body>& bodies, QWidget* parent);

    /// The bodies that are wanted.
    std::vector<ThingId> bodies() const;
    /// Each in a file of its own.
    bool apart() const;

  private:
    std::vector<Body> m_bodies;
    std::vector<QCheckBox*> m_boxes;
    QCheckBox* m_apart;
    QPushButton* m_write;
};

} // namespace gc::app
