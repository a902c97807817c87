#pragma once
/// \file For .cpp files: what rounds and chamfers have in common after they were built.

#include "core/steps/shared/edge_work.hpp"

#include <BRepFilletAPI_LocalOperation.hxx>

namespace gc {

/// The faces that an operation made of one: itself where it was left as it is.
std::vector<TopoDS_Shape> whatBecameOf(const TopoDS_Shape& face, BRepBuilderAPI_MakeShape& operation);

/// The result with its names: what runs along an edge is called by the two faces beside it and the role, what
/// fills a corner by its faces and the role with " corner". Chains that are called otherwise keep that.
Result<Body> bodyOfWork(const Body& before, BRepFilletAPI_LocalOperation& work, int step,
                        const std::string& role, const std::vector<EdgeChain>& chains);

/// What runs along an edge is called so; a chain that is called otherwise keeps that.
NamePtr nameAlong(const NamedShape& before, const TopoDS_Edge& edge, int step, const std::string& role,
                  const std::vector<EdgeChain>& chains);

/// Is it worth keeping: was more done than is left?
bool isMostlyDone(const WorkedEdges& worked, std::size_t of);
/// An error about what is left as it was: with its culprits and its place. \param says the sentence, of how
/// many edges are left and what they are called
using SaysLeft = std::function<Message(const std::string& count, const Message& list)>;
Error leftOver(const WorkedEdges& worked, const Body& before, const char* code, const SaysLeft& says);

} // namespace gc
