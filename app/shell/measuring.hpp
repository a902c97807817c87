#pragma once
/// \file Measuring in the stand: what is clicked goes to the strip, readings follow the part, and can be kept
/// as targets.

#include "app/link/scene.hpp"

#include <QObject>

namespace gc::app {

class ForgeLink;
class MeasureStrip;
class Session;
class Stand;

class Measuring : public QObject {
    Q_OBJECT
  public:
    Measuring(Session* session, ForgeLink* forge, Stand* stand, QObject* parent);

    bool active() const { return m_active; }
    void begin();
    void end();
    void take(const Pick& pick);
    MeasureStrip* strip() const { return m_strip; }

  Q_SIGNALS:
    void changed(bool active);
    void message(const QString& text);

  private:
    void ask();
    void show(const std::vector<ReadingView>& readings, const QString& fault);
    void keep(const QString& key, const QString& allowed);
    void point(int reading);

    Session* m_session;
    ForgeLink* m_forge;
    Stand* m_stand;
    MeasureStrip* m_strip;
    bool m_active = false;
    QStringList m_picked;
    int m_pointed = 0;
};

} // namespace gc::app
