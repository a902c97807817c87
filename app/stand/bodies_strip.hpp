#pragma once
/// \file The bodies of a part, as a list over the stand: each in its colour, shown or hidden by a click, with
/// its material and its name. Nothing is there while there is but one body.

#include "app/shell/session.hpp"

#include <QFrame>

#include <map>

class QLineEdit;
class QLabel;
class QScrollArea;
class QToolButton;
class QVBoxLayout;

namespace gc::app {

class ForgeLink;
class Stand;

class BodiesStrip : public QFrame {
    Q_OBJECT
  public:
    BodiesStrip(Session* session, ForgeLink* forge, Stand* stand);
    /// The bodies that are there now, each in its colour; those that nobody gave one are told apart by ours,
    /// in the order in which the sheet makes them.
    void dress();
    void weigh();
    /// For tests: what is clicked to hide or show a body, and what opens its choices.
    QToolButton* name(ThingId body) const;
    QToolButton* swatch(ThingId body) const;

  Q_SIGNALS:
    void message(const QString& text);
    void placed(); ///< its size is another

  private:
    bool eventFilter(QObject* of, QEvent* e) override;
    void list(const std::map<ThingId, QColor>& bodies);
    void fit();
    std::vector<ThingId> madeWith(ThingId body) const;
    void makeAlike(ThingId body, const std::vector<ThingId>& others);
    struct Row {
        QToolButton *swatch, *name;
        QLabel* mass = nullptr;
    };
    Row makeRow(ThingId body);
    void openChoices(ThingId body);
    void addColours(class QMenu* menu, ThingId body);
    void addMaterials(class QMenu* menu, ThingId body);
    void rename(ThingId body);
    void setLook(const BodyLook& look, const QString& what);

    Session* m_session;
    ForgeLink* m_forge;
    Stand* m_stand;
    QScrollArea* m_scroll;
    QWidget* m_rowsHolder;
    QVBoxLayout* m_list;
    std::map<ThingId, Row> m_rows;
};

} // namespace gc::app
