#pragma once
/// \file The room of what is given to others: exports and proof sheets.

#include "app/rooms/release/release_page.hpp"
#include "app/rooms/room.hpp"
#include "core/document/part.hpp"

#include <map>
#include <vector>

namespace gc::app {

class ReleaseRoom : public Room {
    Q_OBJECT
  public:
    ReleaseRoom(House& house, QObject* parent);
    QWidget* page() const override { return m_page; }
    ReleasePage* releasePage() const { return m_page; }
    /// Exports to a file that was already named; asks which bodies, where the format holds only one.
    void exportTo(const QString& path);
    bool writeProofSheet(const QString& path);

  private:
    QString askWhere(const QString& title, const QString& start, const QString& ending) const;
    QString suggestedPath(const QString& ending) const;
    std::optional<Part> askAboutBookmark() const;
    void exportBodies(const QString& path);
    void write(const QString& path, const std::vector<ThingId>& bodies, bool evenIfStepsFail = false);
    void askAboutFailing(const QString& path, const std::vector<int>& steps);

    ReleasePage* m_page;
    Part m_part;                                       ///< that is exported
    std::map<QString, std::vector<ThingId>> m_exports; ///< which bodies each file was asked to hold
};

} // namespace gc::app
