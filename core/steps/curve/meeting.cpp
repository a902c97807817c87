#include "core/steps/curve/meeting.hpp"

#include "core/shape/kernel.hpp"

#include <BRepAlgoAPI_Section.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <string>

namespace gc {

namespace {

constexpr double kJoin = 1e-4; // mm: nearer than that, ends are one

TopoDS_Compound together(const std::vector<TopoDS_Face>& faces) {
    TopoDS_Compound out;
    BRep_Builder builder;
    builder.MakeCompound(out);
    for (const TopoDS_Face& f : faces) builder.Add(out, f);
    return out;
}

bool joins(const gp_Pnt& a, const gp_Pnt& b) {
    return a.Distance(b) < kJoin;
}

/// Adds what joins at either end, until nothing does any more.
SpacePieces grown(LengthCurve first, std::vector<LengthCurve>& rest) {
    SpacePieces line{{std::move(first)}, false};
    for (bool more = true; more && !joins(line.curves.back().end(), line.curves.front().start());) {
        more = false;
        for (auto c = rest.begin(); c != rest.end(); ++c) {
            const gp_Pnt start = line.curves.front().start(), end = line.curves.back().end();
            const bool after = joins(c->start(), end) || joins(c->end(), end);
            if (!after && !joins(c->start(), start) && !joins(c->end(), start)) continue;
            const bool ahead = after ? joins(c->start(), end) : joins(c->end(), start);
            line.curves.insert(after ? line.curves.end() : line.curves.begin(), ahead ? *c : c->reversed());
            rest.erase(c);
            more = true;
            break;
        }
    }
    line.closed = joins(line.curves.back().end(), line.curves.front().start());
    return line;
}

std::vector<SpacePieces> linesOf(BRepAlgoAPI_Section& section) {
    section.Approximation(true);
    section.Build();
    std::vector<SpacePieces> out;
    if (!section.IsDone()) return out;
    std::vector<LengthCurve> pieces;
    for (TopExp_Explorer x(section.Shape(), TopAbs_EDGE); x.More(); x.Next()) {
        LengthCurve c = LengthCurve::of(TopoDS::Edge(x.Current().Oriented(TopAbs_FORWARD)));
        if (c.length() > kJoin) pieces.push_back(std::move(c));
    }
    while (!pieces.empty()) {
        LengthCurve first = pieces.front();
        pieces.erase(pieces.begin());
        out.push_back(grown(std::move(first), pieces));
    }
    return out;
}

double lengthOf(const SpacePieces& line) {
    double sum = 0;
    for (const LengthCurve& c : line.curves) sum += c.length();
    return sum;
}

double distance(const SpacePieces& line, const Vec3& from) {
    constexpr int kLooks = 200;
    double least = 1e300;
    for (const LengthCurve& c : line.curves)
        for (int i = 0; i <= kLooks; ++i)
            least = std::min(least, length(toVec(c.at(c.length() * i / kLooks)) - from));
    return least;
}

} // namespace

std::vector<SpacePieces> meetingOf(const std::vector<TopoDS_Face>& faces,
                                   const std::vector<TopoDS_Face>& others) {
    BRepAlgoAPI_Section section(together(faces), together(others), false);
    return linesOf(section);
}

std::vector<SpacePieces> meetingWith(const std::vector<TopoDS_Face>& faces, const Plane& plane) {
    const Vec3 n = plane.normal(), o = plane.origin;
    BRepAlgoAPI_Section section(together(faces), gp_Pln(gp_Pnt(o.x, o.y, o.z), gp_Dir(n.x, n.y, n.z)), false);
    return linesOf(section);
}

Result<SpacePieces> oneOf(std::vector<SpacePieces> lines, bool longest, const std::optional<Vec3>& near) {
    if (lines.empty())
        return errorOf("curve.apart", "They do not meet in any line. Pick faces that run through each other "
                                      "or join, or move the plane.");
    if (lines.size() == 1) return std::move(lines.front());
    const auto before = [&](const SpacePieces& a, const SpacePieces& b) {
        return near ? distance(a, *near) < distance(b, *near) : lengthOf(a) > lengthOf(b);
    };
    std::sort(lines.begin(), lines.end(), before);
    const auto alike = [](double a, double b) { return std::abs(a - b) < kJoin; };
    const bool tied = near ? alike(distance(lines[0], *near), distance(lines[1], *near))
                           : alike(lengthOf(lines[0]), lengthOf(lines[1]));
    if ((near || longest) && !tied) return std::move(lines.front());
    Error e = errorOf("curve.lines",
                      phrase("They meet in %1 lines that do not join. Choose the line nearest to a point%2, "
                             "or pick fewer faces.",
                             std::to_string(lines.size()), longest || near ? "" : ", or the longest"));
    e.place = toVec(lines[1].curves.front().start());
    return e;
}

} // namespace gc
