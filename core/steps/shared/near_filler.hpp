#pragma once
/// \file For .cpp files: the kernel's boolean operations, told which faces and edges of free form are too far
/// apart to meet. The kernel goes by one box around each face: a wall around a hollow is then met, at great
/// length, by everything that stands within.

#include <BOPAlgo_PaveFiller.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS_Shape.hxx>

#include <vector>

namespace gc {

/// Is it a face beyond planes, cylinders, cones, spheres and tori?
bool isFreeFace(const TopoDS_Shape& shape);

/// Finds where shapes meet, as the kernel does, but for pairs whose small boxes show that they do not.
class NearFiller : public BOPAlgo_PaveFiller {
  public:
    /// What is known to meet none of the others: faces and edges, or shapes with such.
    void keepApart(const std::vector<TopoDS_Shape>& ones, const std::vector<TopoDS_Shape>& others);

  protected:
    void Init(const Message_ProgressRange& range) override;

  private:
    TopTools_MapOfShape m_ones, m_others;
};

struct HoldsNearFiller {
    NearFiller filler;
};

/// A boolean or a splitter of the kernel that goes by it. What it is given stays as it is (else the kernel
/// widens its tolerances), and it keeps to its thread.
template <class Operation>
class NearOnly : HoldsNearFiller, public Operation {
  public:
    NearOnly() : Operation(HoldsNearFiller::filler) {}
    /// \param tools that the first is worked with \param fuzzy mm, what is nearer is one
    void setUp(const TopoDS_Shape& body, const std::vector<TopoDS_Shape>& tools, double fuzzy = 0) {
        TopTools_ListOfShape bodies, list, all;
        bodies.Append(body), all.Append(body);
        for (const TopoDS_Shape& t : tools) list.Append(t), all.Append(t);
        this->SetArguments(bodies);
        this->SetTools(list);
        this->SetNonDestructive(true);
        this->SetRunParallel(false);
        filler.SetArguments(all);
        filler.SetNonDestructive(true);
        filler.SetRunParallel(false);
        if (fuzzy > 0) filler.SetFuzzyValue(fuzzy);
    }
    void keepApart(const std::vector<TopoDS_Shape>& ones, const std::vector<TopoDS_Shape>& others) {
        filler.keepApart(ones, others);
    }
    void build() {
        filler.Perform();
        this->Build();
    }
};

} // namespace gc
