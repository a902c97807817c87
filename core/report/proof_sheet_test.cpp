#include "core/report/proof_sheet.hpp"

#include <catch2/catch.hpp>

TEST_CASE("The proof sheet holds every row and sentence and escapes what people typed") {
    gc::ProofSheet s;
    s.part = "Pot <b>";
    s.rows = {{"✓", "Mass", "76.1 g", "76 ± 3 g", ""},
              {"■", "Thinnest wall", "1.9 mm", "≥ 2 mm", "wall & rim"}};
    s.sentences = {"Shell pot."};
    s.pictures = {{"front", "aGk="}};
    const std::string h = gc::proofSheetHtml(s);
    for (const char* part : {"Pot &lt;b&gt;", "76.1 g", "≥ 2 mm", "wall &amp; rim", "<li>Shell pot.</li>",
                             "base64,aGk=", "no promise"})
        CHECK_THAT(h, Catch::Matchers::Contains(part));
    CHECK(h.find("<b>:") == std::string::npos);
}
