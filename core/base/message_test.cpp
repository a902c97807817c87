#include "core/base/message.hpp"

#include <catch2/catch.hpp>

using namespace gc;

TEST_CASE("A sentence keeps its pattern and what stands in it, and reads in English") {
    const Message inner = phrase("%1, Shell, took it away", "step 4");
    const Message m = phrase("There is no %1 any more. The cause: %2. (%1)", "rim", inner);
    CHECK(m.text() == "There is no rim any more. The cause: step 4, Shell, took it away. (rim)");
    CHECK(m.pattern() == "There is no %1 any more. The cause: %2. (%1)");
    REQUIRE(m.arguments().size() == 2);
    CHECK(m.arguments()[1] == inner);
    CHECK(inner.text() == "Step 4, Shell, took it away"); // a sentence of its own begins with a capital
    CHECK(phrase("%1 Which one?", phrase("%1 pieces match.", "two")).text() ==
          "Two pieces match. Which one?");
    // What is no place of an argument stays as it is, and an argument is never taken for a pattern.
    CHECK(Message("100 %1 sure").text() == "100 %1 sure");
    CHECK(phrase("%3 and %1", "a %2").text() == "%3 and a %2");
    const Message other =
        m.putOtherwise([](const std::string& text) { return text == "rim" ? "rim of the pot" : text; });
    CHECK(other.text().starts_with("There is no rim of the pot any more"));
    CHECK(other.pattern() == m.pattern());
}
