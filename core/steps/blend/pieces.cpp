#include "core/steps/blend/pieces.hpp"

#include "core/steps/shared/edge_work.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <utility>

namespace gc {

namespace {

Error at(const TopoDS_Edge& edge, const char* code, const char* sentence) {
    Error e = errorOf(code, sentence);
    e.place = middleOf(EdgeChain{{edge}});
    return e;
}

void turnAround(RoundPiece& p) {
    std::swap(p.from, p.to);
    std::swap(p.first, p.last);
    for (bool& a : p.ahead) a = !a;
}
void swapSides(RoundPiece& p) {
    for (auto* two : {&p.from, &p.to}) std::swap((*two)[0], (*two)[1]);
    std::swap(p.beside[0], p.beside[1]);
    std::swap(p.rails[0], p.rails[1]);
    std::swap(p.ahead[0], p.ahead[1]);
}

class Chains {
  public:
    Chains(BRepFilletAPI_MakeFillet& rounds, const NamedShape& before, const NamedShape& rounded)
        : m_rounds(rounds), m_before(before), m_now(rounded) {
        for (int c = 1; c <= rounds.NbContours(); ++c)
            for (int k = 1; k <= rounds.NbEdges(c); ++k)
                for (const TopoDS_Shape& f : toVector(rounds.Generated(rounds.Edge(c, k)))) m_made.Add(f);
    }

    Result<RoundChain> chain(int contour) {
        RoundChain out;
        TopTools_MapOfShape seen;
        const int n = m_rounds.NbEdges(contour);
        for (int k = 1; k <= n; ++k) {
            const TopoDS_Edge edge = m_rounds.Edge(contour, k);
            // The kernel says of one edge what runs along it and along the next; of the next then nothing.
            for (const TopoDS_Shape& face : toVector(m_rounds.Generated(edge))) {
                if (!seen.Add(face)) continue;
                auto piece = pieceOf(edge, face, facesBeside(m_before, edge));
                if (!piece) piece = pieceOf(edge, face, supportsOf(contour)); // it runs on past the edge
                if (!piece) return piece.error();
                out.pieces.push_back(std::move(*piece));
            }
        }
        bringInOrder(out.pieces);
        if (out.pieces.empty()) return notBetween(m_rounds.Edge(contour, 1));
        if (auto fault = lineUp(out.pieces)) return *fault;
        RoundPiece &first = out.pieces.front(), &last = out.pieces.back();
        out.closed = first.first.IsSame(last.last);
        if (out.closed) return out;
        const TopoDS_Edge ends[] = {first.first, last.last};
        for (std::size_t i = 0; i < 2; ++i) {
            const TopoDS_Face end = faceAcross(m_now, ends[i], (i == 0 ? first : last).round);
            if (end.IsNull() || m_made.Contains(end) || isCorner(end))
                return at(ends[i], "blend.corner",
                          "These blends cannot meet in this corner. Round the upright edge there first, so "
                          "that the chain runs round it, or blend fewer edges.");
            if (BRepAdaptor_Surface(end, false).GetType() != GeomAbs_Plane)
                return at(ends[i], "blend.end", "A blend has to end on a flat face. This end is bent.");
            out.ends[i] = end;
        }
        return out;
    }

  private:
    /// A face that fills a corner where rounds meet.
    bool isCorner(const TopoDS_Face& face) const {
        for (int v = 1; v <= m_before.vertices.Extent(); ++v)
            for (const TopoDS_Shape& f : toVector(m_rounds.Generated(m_before.vertices(v))))
                if (f.IsSame(face)) return true;
        return false;
    }
    bool isWhatBecameOf(const TopoDS_Shape& support, const TopoDS_Face& face) const {
        if (face.IsSame(support)) return true;
        for (const TopoDS_Shape& f : toVector(m_rounds.Modified(support)))
            if (f.IsSame(face)) return true;
        return false;
    }

    static Error notBetween(const TopoDS_Edge& edge) {
        return at(edge, "blend.shape",
                  "The round along this edge is not between two faces all along, so no blend can "
                  "take its place. Try a smaller size.");
    }

    std::vector<TopoDS_Shape> supportsOf(int contour) const {
        std::vector<TopoDS_Shape> out;
        for (int k = 1; k <= m_rounds.NbEdges(contour); ++k)
            for (const TopoDS_Shape& f : facesBeside(m_before, m_rounds.Edge(contour, k))) out.push_back(f);
        return out;
    }

    /// \param supports faces of the body before that its rails may lie on
    Result<RoundPiece> pieceOf(const TopoDS_Edge& edge, const TopoDS_Shape& made,
                               const std::vector<TopoDS_Shape>& supports) const {
        const Error shape = notBetween(edge);
        RoundPiece out;
        if (made.ShapeType() != TopAbs_FACE) return shape;
        const int number = m_now.faces.FindIndex(made);
        if (number < 1) return shape;
        out.round = TopoDS::Face(m_now.faces(number));
        std::vector<TopoDS_Edge> ends;
        for (TopExp_Explorer x(out.round, TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge e = TopoDS::Edge(x.Current());
            if (BRep_Tool::Degenerated(e)) return shape;
            const TopoDS_Face other = faceAcross(m_now, e, out.round);
            const bool rail = !other.IsNull() && !m_made.Contains(other) &&
                              std::any_of(supports.begin(), supports.end(),
                                          [&](const TopoDS_Shape& s) { return isWhatBecameOf(s, other); });
            if (!rail) {
                if (ends.empty() || !ends.front().IsSame(e)) ends.push_back(e);
                continue;
            }
            const std::size_t side = out.rails[0].IsNull() ? 0 : 1;
            if (!out.rails[side].IsNull()) return shape;
            out.rails[side] = e;
            out.beside[side] = other;
        }
        if (out.rails[0].IsNull() || out.rails[1].IsNull() || ends.empty() || ends.size() > 2) return shape;
        out.first = ends.front();
        out.last = ends.back();
        for (std::size_t s = 0; s < 2; ++s) {
            const TopoDS_Vertex a = TopExp::FirstVertex(out.rails[s]), b = TopExp::LastVertex(out.rails[s]);
            const bool ahead =
                a.IsSame(b) ? s == 0 || runsAlike(out.rails[0], out.rails[1]) : touches(out.first, a);
            out.ahead[s] = ahead;
            out.from[s] = ahead ? a : b;
            out.to[s] = ahead ? b : a;
            if (!touches(out.first, out.from[s]) || !touches(out.last, out.to[s])) return shape;
        }
        return out;
    }
    static bool touches(const TopoDS_Edge& edge, const TopoDS_Vertex& vertex) {
        return TopExp::FirstVertex(edge).IsSame(vertex) || TopExp::LastVertex(edge).IsSame(vertex);
    }

    /// Of two that run round and begin beside each other. Fitted curves may begin with a tiny hook: a tenth
    /// of the way tells.
    static bool runsAlike(const TopoDS_Edge& one, const TopoDS_Edge& other) {
        gp_Vec d[2];
        for (int i = 0; i < 2; ++i) {
            const BRepAdaptor_Curve c(i == 0 ? one : other);
            const double from = c.FirstParameter();
            d[i] = gp_Vec(c.Value(from), c.Value(from + 0.1 * (c.LastParameter() - from)));
        }
        return d[0].Dot(d[1]) > 0;
    }

    /// Those that share an end follow each other; an open chain begins at an end that no other has.
    static void bringInOrder(std::vector<RoundPiece>& pieces) {
        const auto shares = [](const RoundPiece& p, const TopoDS_Edge& end) {
            return p.first.IsSame(end) || p.last.IsSame(end);
        };
        const auto isFree = [&](const RoundPiece& p, const TopoDS_Edge& end) {
            return std::none_of(pieces.begin(), pieces.end(),
                                [&](const RoundPiece& q) { return &q != &p && shares(q, end); });
        };
        const auto begin = std::find_if(pieces.begin(), pieces.end(), [&](const RoundPiece& p) {
            return isFree(p, p.first) != isFree(p, p.last);
        });
        if (begin == pieces.end()) return orderFrom(pieces, pieces.empty() ? TopoDS_Edge() : pieces[0].last);
        const TopoDS_Edge next = isFree(*begin, begin->first) ? begin->last : begin->first;
        std::iter_swap(pieces.begin(), begin);
        orderFrom(pieces, next);
    }
    /// \param end of the first piece that the second one begins at
    static void orderFrom(std::vector<RoundPiece>& pieces, TopoDS_Edge end) {
        for (std::size_t i = 1; i < pieces.size(); ++i)
            for (std::size_t k = i; k < pieces.size(); ++k) {
                if (!pieces[k].first.IsSame(end) && !pieces[k].last.IsSame(end)) continue;
                std::swap(pieces[i], pieces[k]);
                end = pieces[i].first.IsSame(end) ? pieces[i].last : pieces[i].first;
                break;
            }
    }

    /// Each goes on where the one before ends, with its sides on the same side.
    static std::optional<Error> lineUp(std::vector<RoundPiece>& pieces) {
        const auto apart = [](const RoundPiece& p) {
            return at(
                p.rails[0], "blend.shape",
                "The rounds along this chain of edges do not run on from each other, so no blend can take "
                "their place.");
        };
        if (pieces.size() > 1 && !pieces[0].last.IsSame(pieces[1].first) &&
            !pieces[0].last.IsSame(pieces[1].last))
            turnAround(pieces[0]);
        for (std::size_t i = 1; i < pieces.size(); ++i) {
            RoundPiece& p = pieces[i];
            if (!p.first.IsSame(pieces[i - 1].last)) turnAround(p);
            if (!p.first.IsSame(pieces[i - 1].last)) return apart(p);
            if (!p.from[0].IsSame(pieces[i - 1].to[0])) swapSides(p);
            if (!p.from[0].IsSame(pieces[i - 1].to[0]) || !p.from[1].IsSame(pieces[i - 1].to[1]))
                return apart(p);
        }
        return std::nullopt;
    }

    BRepFilletAPI_MakeFillet& m_rounds;
    const NamedShape &m_before, &m_now;
    TopTools_IndexedMapOfShape m_made;
};

} // namespace

Result<std::vector<RoundChain>> roundChains(BRepFilletAPI_MakeFillet& rounds, const NamedShape& before,
                                            const NamedShape& rounded) {
    Chains chains(rounds, before, rounded);
    std::vector<RoundChain> out;
    for (int c = 1; c <= rounds.NbContours(); ++c) {
        auto chain = chains.chain(c);
        if (!chain) return chain.error();
        out.push_back(std::move(*chain));
    }
    return out;
}

} // namespace gc
