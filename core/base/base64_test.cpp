#include "core/base/base64.hpp"

#include <catch2/catch.hpp>

using namespace gc;

TEST_CASE("Base64 as in RFC 4648, section 10") {
    for (const auto& [text, bytes] : {std::pair{"", ""},
                                      {"Zg==", "f"},
                                      {"Zm8=", "fo"},
                                      {"Zm9v", "foo"},
                                      {"Zm9vYg==", "foob"},
                                      {"Zm9v\nYmE=", "fooba"},
                                      {"Zm9vYmFy", "foobar"}})
        CHECK(fromBase64(text) == std::optional<std::string>(bytes));
    for (const char* bad : {"Z", "Zg=", "Zg===", "Z!==", "Zg==Zg==", "Zm9vY"}) CHECK_FALSE(fromBase64(bad));
    CHECK(fromBase64("AP8=") == std::optional(std::string("\0\xff", 2)));
}
