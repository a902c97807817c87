#include "core/steps/shared/near_filler.hpp"

#include <BOPDS_DS.hxx>
#include <BOPDS_Iterator.hxx>
#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <BndLib_Add3dCurve.hxx>
#include <BndLib_AddSurface.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <map>

namespace gc {

bool isFreeFace(const TopoDS_Shape& shape) {
    return shape.ShapeType() == TopAbs_FACE &&
           BRepAdaptor_Surface(TopoDS::Face(shape), false).GetType() > GeomAbs_Torus;
}

namespace {

using Boxes = std::vector<Bnd_Box>;

constexpr double kSpare = 0.01; // mm, beyond the tolerances

Bnd_Box enlarged(Bnd_Box box, double tolerance) {
    // What is bounded by samples may reach out of its box by a part of that.
    constexpr double kShare = 0.05;
    if (!box.IsVoid()) box.Enlarge(tolerance + kSpare + kShare * std::sqrt(box.SquareExtent()));
    return box;
}

Boxes boxesOfFace(const TopoDS_Face& face) {
    constexpr int kAcross = 24, kUp = 6;
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    const BRepAdaptor_Surface surface(face, false);
    Boxes out;
    for (int i = 0; i < kAcross; ++i)
        for (int k = 0; k < kUp; ++k) {
            Bnd_Box box;
            BndLib_AddSurface::Add(surface, u0 + (u1 - u0) * i / kAcross, u0 + (u1 - u0) * (i + 1) / kAcross,
                                   v0 + (v1 - v0) * k / kUp, v0 + (v1 - v0) * (k + 1) / kUp, 0, box);
            out.push_back(enlarged(box, BRep_Tool::Tolerance(face)));
        }
    return out;
}

Boxes boxesOfEdge(const TopoDS_Edge& edge) {
    constexpr int kAlong = 24;
    if (BRep_Tool::Degenerated(edge) || !BRep_Tool::IsGeometric(edge)) return {};
    const BRepAdaptor_Curve curve(edge);
    const double from = curve.FirstParameter(), to = curve.LastParameter();
    Boxes out;
    for (int i = 0; i < kAlong; ++i) {
        Bnd_Box box;
        BndLib_Add3dCurve::Add(curve, from + (to - from) * i / kAlong, from + (to - from) * (i + 1) / kAlong,
                               0, box);
        out.push_back(enlarged(box, BRep_Tool::Tolerance(edge)));
    }
    return out;
}

class NearIterator : public BOPDS_Iterator {
  public:
    NearIterator(const Handle(NCollection_BaseAllocator) & memory, const TopTools_MapOfShape& ones,
                 const TopTools_MapOfShape& others)
        : BOPDS_Iterator(memory), m_ones(ones), m_others(others) {}

  protected:
    void Intersect(const Handle(IntTools_Context) & context, const Standard_Boolean checkOBB,
                   const Standard_Real fuzzy) override {
        BOPDS_Iterator::Intersect(context, checkOBB, fuzzy);
        for (int i = 0; i < myLists.Length(); ++i) {
            BOPDS_VectorOfPair& pairs = myLists.ChangeValue(i);
            BOPDS_VectorOfPair near;
            for (const BOPDS_Pair& pair : pairs)
                if (!areApart(pair)) near.Append(pair);
            if (near.Length() < pairs.Length()) pairs = near;
        }
    }

  private:
    bool areApart(const BOPDS_Pair& pair) {
        int a = 0, b = 0;
        pair.Indices(a, b);
        const TopoDS_Shape &p = myDS->Shape(a), &q = myDS->Shape(b);
        if ((m_ones.Contains(p) && m_others.Contains(q)) || (m_ones.Contains(q) && m_others.Contains(p)))
            return true;
        if (!isFree(a, p) && !isFree(b, q)) return false;
        const Boxes &inP = boxesOf(a, p), &inQ = boxesOf(b, q);
        if (inP.empty() || inQ.empty()) return false;
        for (const Bnd_Box& one : inP)
            for (const Bnd_Box& other : inQ)
                if (!one.IsOut(other)) return false;
        return true;
    }
    bool isFree(int at, const TopoDS_Shape& shape) {
        const auto known = m_free.find(at);
        return known != m_free.end() ? known->second : (m_free[at] = isFreeFace(shape));
    }
    const Boxes& boxesOf(int at, const TopoDS_Shape& shape) {
        if (const auto known = m_boxes.find(at); known != m_boxes.end()) return known->second;
        Boxes out;
        if (isFree(at, shape))
            out = boxesOfFace(TopoDS::Face(shape));
        else if (shape.ShapeType() == TopAbs_EDGE)
            out = boxesOfEdge(TopoDS::Edge(shape));
        else
            out = {enlarged(myDS->ShapeInfo(at).Box(), 0)};
        return m_boxes[at] = std::move(out);
    }

    const TopTools_MapOfShape &m_ones, &m_others;
    std::map<int, Boxes> m_boxes;
    std::map<int, bool> m_free;
};

} // namespace

void NearFiller::keepApart(const std::vector<TopoDS_Shape>& ones, const std::vector<TopoDS_Shape>& others) {
    const auto addAll = [](const std::vector<TopoDS_Shape>& shapes, TopTools_MapOfShape& to) {
        for (const TopoDS_Shape& s : shapes)
            for (const TopAbs_ShapeEnum kind : {TopAbs_FACE, TopAbs_EDGE})
                for (TopExp_Explorer e(s, kind); e.More(); e.Next()) to.Add(e.Current());
    };
    addAll(ones, m_ones);
    addAll(others, m_others);
}

void NearFiller::Init(const Message_ProgressRange& range) {
    BOPAlgo_PaveFiller::Init(range);
    if (HasErrors()) return;
    delete myIterator;
    myIterator = new NearIterator(myAllocator, m_ones, m_others);
    myIterator->SetRunParallel(myRunParallel);
    myIterator->SetDS(myDS);
    myIterator->Prepare(myContext, myUseOBB, myFuzzyValue);
}

} // namespace gc
