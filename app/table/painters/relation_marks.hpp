#pragma once
/// \file The signs of relations beside what they hold.

#include "app/table/painters/scene.hpp"

#include <map>
#include <optional>

class QPainter;

namespace gc::app {

class RelationMarks {
  public:
    void paint(QPainter& p, const TableScene& scene);
    /// The relation whose sign was painted there; 0: none.
    int at(QPointF place) const;
    QPointF placeOf(int relation) const;

  private:
    std::optional<QPointF> placeAt(const TableScene& scene, const Relation& r, int of, bool asked);

    std::vector<std::pair<QPointF, int>> m_marks;
    std::map<int, int> m_used; ///< how many stand at a stroke or a point already
    std::set<std::pair<int, RelationKind>> m_signed;
};

} // namespace gc::app
