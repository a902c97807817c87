#pragma once
/// \file The buttons over the stand: cut-away, colour maps, sights; and room for them beside the list of
/// bodies.

#include "app/stand/stand.hpp"

#include <QObject>
#include <QPushButton>

#include <map>

namespace gc::app {

class BodiesStrip;

class StandButtons : public QObject {
    Q_OBJECT
  public:
    StandButtons(Stand* stand, BodiesStrip* bodies);
    void setMeasuring(bool on) { m_measure->setChecked(on); }

  Q_SIGNALS:
    /// A person chose a colour map, or none.
    void overlayChosen();
    void measureAsked(bool on);

  protected:
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    QPushButton* make(const QString& text, const QString& shortText, const QString& tip, bool checkable);
    void say(const QList<QPushButton*>& buttons, bool inFull);
    void makeMaps();
    void makeSights();
    void place();
    void offerDeviation(bool offered);

    Stand* m_stand;
    BodiesStrip* m_bodies;
    QPushButton *m_measure = nullptr, *m_deviation = nullptr;
    QList<QPushButton*> m_buttons, m_sights;
    std::vector<std::pair<QPushButton*, Overlay>> m_maps;
    std::map<QPushButton*, std::pair<QString, QString>> m_words; ///< in full, and short
};

} // namespace gc::app
