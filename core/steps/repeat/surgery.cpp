#include "core/steps/repeat/surgery.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRep_Builder.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

bool isFlat(const TopoDS_Face& face) {
    return BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane;
}

/// A copy of a detail: its faces and loops in the order of the detail's.
struct Copy {
    std::vector<TopoDS_Shape> faces;
    std::vector<TopoDS_Wire> loops;
};

/// On flat faces a copy is the same faces elsewhere: nothing of their geometry is made again.
Copy placed(const Detail& detail, const gp_Trsf& by) {
    const TopLoc_Location at(by);
    Copy out;
    for (const TopoDS_Face& f : detail.faces) out.faces.push_back(f.Moved(at));
    for (const Mouth& m : detail.mouths) out.loops.push_back(TopoDS::Wire(m.loop.Moved(at)));
    return out;
}

/// Else its edges are its own, as they get curves on the faces that they are set into.
Copy made(const Detail& detail, const gp_Trsf& by) {
    BRep_Builder builder;
    TopoDS_Compound all;
    builder.MakeCompound(all);
    for (const TopoDS_Face& f : detail.faces) builder.Add(all, f);
    for (const Mouth& m : detail.mouths) builder.Add(all, m.loop);
    BRepBuilderAPI_Transform operation(all, by, true);
    Copy out;
    for (const TopoDS_Face& f : detail.faces)
        out.faces.push_back(operation.ModifiedShape(f).Oriented(f.Orientation()));
    for (const Mouth& m : detail.mouths)
        out.loops.push_back(TopoDS::Wire(operation.ModifiedShape(m.loop).Oriented(m.loop.Orientation())));
    return out;
}

/// A face that takes the mouths of copies.
class Host {
  public:
    /// \param without loops that it does not keep
    Host(const TopoDS_Face& face, const std::vector<Mouth>& without) : m_old(face), m_flat(isFlat(face)) {
        m_new = TopoDS::Face(face.EmptyCopied().Oriented(TopAbs_FORWARD));
        for (TopoDS_Iterator w(face.Oriented(TopAbs_FORWARD), false); w.More(); w.Next())
            if (std::none_of(without.begin(), without.end(),
                             [&](const Mouth& m) { return m.loop.IsSame(w.Value()); }))
                m_builder.Add(m_new, w.Value());
    }
    const TopoDS_Face& old() const { return m_old; }
    TopoDS_Shape face() const { return m_new.Oriented(m_old.Orientation()); }

    /// \param from the loop of the detail that this is a copy of \param by how
    /// \return false where it lies over the line at which the face closes up
    void take(const TopoDS_Wire& fitted) { m_builder.Add(m_new, fitted); }
    bool take(const TopoDS_Wire& loop, const TopoDS_Wire& from, const gp_Trsf& by) {
        const auto shift = shiftOn(m_old, by);
        const TopoDS_Face forward = TopoDS::Face(m_old.Oriented(TopAbs_FORWARD));
        if (!shift || (!m_flat && !layLoop(loop, m_new, from, forward, *shift))) return false;
        m_builder.Add(m_new, loop);
        return true;
    }

  private:
    TopoDS_Face m_old, m_new;
    bool m_flat;
    BRep_Builder m_builder;
};

class Surgery {
  public:
    /// \param instead another detail whose faces and loops go
    Surgery(const NamedShape& before, const Detail& detail, int step, const Detail* instead = nullptr)
        : m_before(before), m_detail(detail), m_step(step) {
        if (instead)
            for (const TopoDS_Face& f : instead->faces) m_gone.Add(f);
        if (instead) m_without = instead->mouths;
        for (const Mouth& m : detail.mouths) {
            m_hostOf.push_back(hostFor(m.host));
            m_flat = m_flat && isFlat(m.host);
        }
    }

    std::optional<Body> run(const std::vector<Placement>& placements) {
        for (const Placement& p : placements) {
            // What lies elsewhere in another size is no place of the same faces for the kernel.
            const bool sized = std::fabs(std::fabs(p.by.ScaleFactor()) - 1) > 1e-12;
            m_copies.push_back(m_flat && !sized ? placed(m_detail, p.by) : made(m_detail, p.by));
            for (std::size_t m = 0; m < m_detail.mouths.size(); ++m)
                if (!m_hosts[m_hostOf[m]].take(m_copies.back().loops[m], m_detail.mouths[m].loop, p.by))
                    return std::nullopt;
        }
        return named(placements);
    }

    std::optional<Body> run(const std::vector<Placement>& placements, const std::vector<FittedCopy>& copies,
                            const FittedCopy* own) {
        for (const FittedCopy& c : copies) m_copies.push_back(taken(c));
        if (own) m_own = taken(*own);
        return named(placements);
    }

  private:
    std::size_t hostFor(const TopoDS_Face& face) {
        const auto known =
            std::find_if(m_hosts.begin(), m_hosts.end(), [&](const Host& h) { return h.old().IsSame(face); });
        if (known != m_hosts.end()) return static_cast<std::size_t>(known - m_hosts.begin());
        m_hosts.emplace_back(face, m_without);
        return m_hosts.size() - 1;
    }

    Copy taken(const FittedCopy& c) {
        for (std::size_t m = 0; m < c.loops.size(); ++m) m_hosts[hostFor(c.hosts[m])].take(c.loops[m]);
        return {c.faces, c.loops};
    }

    std::optional<Body> named(const std::vector<Placement>& placements) const {
        if (m_before.shape.ShapeType() != TopAbs_SOLID) return std::nullopt;
        const auto solid = assembled();
        if (!solid) return std::nullopt;
        NameBuilder names(*solid);
        names.inherit(m_before);
        for (int i = 1; i <= m_before.faces.Extent(); ++i) {
            const Host* host = hostOf(m_before.faces(i));
            if (m_gone.Contains(m_before.faces(i))) continue;
            names.add(host ? host->face() : m_before.faces(i), m_before.namesOf(m_before.faces(i)));
        }
        for (std::size_t k = 0; k < m_copies.size(); ++k)
            for (std::size_t f = 0; f < m_detail.faces.size(); ++f)
                names.add(m_copies[k].faces[f],
                          copyNames(m_before.namesOf(m_detail.faces[f]), placements[k], m_step));
        for (std::size_t f = 0; f < m_own.faces.size(); ++f)
            names.add(m_own.faces[f], m_before.namesOf(m_detail.faces[f]));
        auto body = names.finish();
        if (!body) return std::nullopt;
        return *body;
    }

    const Host* hostOf(const TopoDS_Shape& face) const {
        for (const Host& h : m_hosts)
            if (h.old().IsSame(face)) return &h;
        return nullptr;
    }

    /// All hosts have to lie in one shell: the copies go there.
    std::optional<TopoDS_Solid> assembled() const {
        BRep_Builder builder;
        TopoDS_Solid solid;
        builder.MakeSolid(solid);
        for (TopoDS_Iterator shells(m_before.shape); shells.More(); shells.Next()) {
            TopoDS_Shell shell;
            builder.MakeShell(shell);
            std::size_t held = 0;
            for (TopoDS_Iterator f(shells.Value()); f.More(); f.Next()) {
                const Host* host = hostOf(f.Value());
                held += host != nullptr;
                if (m_gone.Contains(f.Value())) continue;
                builder.Add(shell, host ? host->face().Oriented(f.Value().Orientation()) : f.Value());
            }
            if (held != 0 && held != m_hosts.size()) return std::nullopt;
            if (held != 0) {
                for (const Copy& c : m_copies)
                    for (const TopoDS_Shape& f : c.faces) builder.Add(shell, f);
                for (const TopoDS_Shape& f : m_own.faces) builder.Add(shell, f);
            }
            shell.Closed(true);
            builder.Add(solid, shell); // its faces are turned as the old shell turned them
        }
        return solid;
    }

    const NamedShape& m_before;
    const Detail& m_detail;
    int m_step;
    bool m_flat = true;
    std::vector<Host> m_hosts;
    std::vector<std::size_t> m_hostOf; ///< of a mouth
    std::vector<Copy> m_copies;
    Copy m_own;
    TopTools_IndexedMapOfShape m_gone;
    std::vector<Mouth> m_without; ///< whose loops hosts do not keep
};

} // namespace

std::optional<Body> setInto(const NamedShape& shape, const Detail& detail,
                            const std::vector<Placement>& placements, int step) {
    return Surgery(shape, detail, step).run(placements);
}

std::optional<Body> setInto(const NamedShape& shape, const Detail& detail,
                            const std::vector<Placement>& placements, const std::vector<FittedCopy>& copies,
                            const std::optional<OwnCopy>& own, int step) {
    return Surgery(shape, detail, step, own ? own->instead : nullptr)
        .run(placements, copies, own ? &own->copy : nullptr);
}

} // namespace gc
