#pragma once
/// \file The proof sheet: what a part was measured to be, as one self-contained page.

#include <string>
#include <vector>

namespace gc {

struct ProofRow {
    std::string sign, claim, measured, allowed, where;
};
struct ProofPicture {
    std::string caption;
    std::string pngBase64;
};
struct ProofSheet {
    std::string part, purpose, process, material, date, caution;
    std::vector<ProofRow> rows;
    std::vector<std::string> sentences; ///< the build sheet, in order
    std::vector<ProofPicture> pictures;
};

/// HTML with everything in it. All texts are escaped. Plain tags, so that it prints well.
std::string proofSheetHtml(const ProofSheet& sheet);

} // namespace gc
