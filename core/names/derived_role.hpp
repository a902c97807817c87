#pragma once
/// \file Roles of faces that were derived from other faces: what a shell left inside of one, a fillet between
/// two. Each kind of step that makes such faces lists its own in core/steps/<kind>/roles.cpp; from this one
/// table they are named, said, read, fitted and offered.

#include <string>
#include <vector>

namespace gc {

struct DerivedRole {
    std::string role;   ///< in the names of faces: "fillet"
    std::string words;  ///< in references, before the face or the two faces: "fillet between"
    int parents = 1;    ///< how many faces it is derived from at most: one, two or three
    bool blend = false; ///< it stands for the faces between which it lies: what was beside those is beside it
};

/// All of them.
const std::vector<DerivedRole>& derivedRoles();
/// Nothing for a role that no kind lists.
const DerivedRole* findDerivedRole(const std::string& role);

} // namespace gc
