#include "forge/protocol.hpp"

#include <catch2/catch.hpp>

#include <random>

using namespace gc;

TEST_CASE("Frames come through whole however the pipe cuts them") {
    std::string stream;
    for (int i = 0; i < 20; ++i)
        stream += encodeFrame(
            {{{"type", "mesh"}, {"n", i}}, {std::string(std::size_t(i) * 37, char('a' + i)), ""}});
    std::mt19937 random(4);
    FrameReader reader;
    int seen = 0;
    for (std::size_t at = 0; at < stream.size();) {
        const std::size_t n = std::min<std::size_t>(1 + random() % 90, stream.size() - at);
        reader.feed(stream.data() + at, n);
        at += n;
        for (;;) {
            const auto f = reader.next();
            REQUIRE(f.ok());
            if (!f->has_value()) break;
            CHECK((*f)->header["n"] == seen);
            CHECK((*f)->blobs[0] == std::string(std::size_t(seen) * 37, char('a' + seen)));
            ++seen;
        }
    }
    CHECK(seen == 20);
}

TEST_CASE("Numbers survive being a blob") {
    const std::vector<float> v{1.5f, -2.f, 3e8f};
    CHECK(valuesOf<float>(blobOf(v)) == v);
}

TEST_CASE("Garbled streams end in an error or in silence, never in nonsense") {
    std::mt19937 random(8);
    const std::string good = encodeFrame({{{"type", "x"}}, {"blob"}});
    for (int k = 0; k < 2000; ++k) {
        std::string bad = good;
        for (int i = 0; i < 3; ++i) bad[random() % bad.size()] = char(random());
        FrameReader reader;
        reader.feed(bad.data(), bad.size());
        const auto f = reader.next();
        if (f && f->has_value()) CHECK((*f)->header.is_object());
    }
}
