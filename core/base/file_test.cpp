#include "core/base/file.hpp"
#include "core/base/utf8.hpp"
#include "tests/support/temporary_folder.hpp"

#include <catch2/catch.hpp>

#include <sys/stat.h>
#include <unistd.h>

using namespace gc;
namespace fs = std::filesystem;

namespace {

mode_t modeOf(const fs::path& path) {
    struct stat info {};
    REQUIRE(::stat(path.c_str(), &info) == 0);
    return info.st_mode & 07777;
}

/// As the user nobody, for whom the marks of files count; for root they do not.
template <class Try>
void asNobody(const Try& attempt) {
    const bool root = ::geteuid() == 0;
    if (root) REQUIRE(::seteuid(65534) == 0);
    attempt();
    if (root) REQUIRE(::seteuid(0) == 0);
}

} // namespace

TEST_CASE("A file is replaced whole; links, marks, masks and long names are kept") {
    const test::TemporaryFolder folder;
    const fs::path target = folder.file("target.txt"), link = folder.file("link.txt");
    REQUIRE(writeFileAtomically(target, "one").ok());
    SECTION("a link stays a link, and what it leads to is written") {
        fs::create_symlink("target.txt", link);
        REQUIRE(writeFileAtomically(link, "two").ok());
        CHECK(fs::is_symlink(link));
        CHECK(*readFile(target) == "two");
    }
    SECTION("a link that leads nowhere makes what it leads to") {
        fs::create_symlink("new.txt", link);
        REQUIRE(writeFileAtomically(link, "three").ok());
        CHECK(fs::is_symlink(link));
        CHECK(*readFile(folder.file("new.txt")) == "three");
    }
    SECTION("what a file may be stays; a new one follows the mask") {
        fs::permissions(target, fs::perms(0600));
        REQUIRE(writeFileAtomically(target, "two").ok());
        CHECK(modeOf(target) == 0600);
        const mode_t before = ::umask(027);
        REQUIRE(writeFileAtomically(folder.file("masked.txt"), "x").ok());
        ::umask(before);
        CHECK(modeOf(folder.file("masked.txt")) == 0640);
    }
    SECTION("what may only be read is not replaced") {
        fs::permissions(folder.path(), fs::perms(0777));
        fs::permissions(target, fs::perms(0444));
        asNobody([&] {
            const auto done = writeFileAtomically(target, "two");
            REQUIRE_FALSE(done.ok());
            CHECK(done.error().code == "file.read-only");
        });
        CHECK(*readFile(target) == "one");
    }
    SECTION("names may be as long as the system allows") {
        const fs::path longest = folder.file(std::string(250, 'n'));
        REQUIRE(writeFileAtomically(longest, "two").ok());
        CHECK(*readFile(longest) == "two");
    }
    SECTION("nothing is left beside it when it fails") {
        const auto done = writeFileAtomically(fs::path(folder.file("no folder")) / "a.txt", "x");
        REQUIRE_FALSE(done.ok());
        CHECK(done.error().code == "file.unwritable");
        CHECK(std::distance(fs::directory_iterator(folder.path()), {}) == 1);
    }
}

TEST_CASE("A pipe or a folder in place of a file is told at once") {
    const test::TemporaryFolder folder;
    const fs::path pipe = folder.file("pipe");
    REQUIRE(::mkfifo(pipe.c_str(), 0600) == 0);
    CHECK(readFile(pipe).error().code == "file.unreadable");
    CHECK(writeFileAtomically(pipe, "x").error().code == "file.unwritable");
    CHECK(readFile(folder.path()).error().code == "file.unreadable");
    CHECK_FALSE(contentHash(pipe).has_value());
}

TEST_CASE("Foreign bytes become letters, and valid text stays as it is") {
    CHECK(madeUtf8("a\xE9"
                   "b") == "aéb");
    CHECK(madeUtf8("häkeln – ✓ 😀") == "häkeln – ✓ 😀");
    for (const char* broken : {"\xC0\xAF", "\xED\xA0\x80", "\xF4\x90\x80\x80", "\xE2\x82", "\xFF", "\x80"}) {
        CHECK_FALSE(isUtf8(broken));
        CHECK(isUtf8(madeUtf8(broken)));
    }
    std::string all;
    for (int c = 255; c > 0; --c) all += static_cast<char>(c);
    CHECK(isUtf8(madeUtf8(all)));
    CHECK(madeUtf8(madeUtf8(all)) == madeUtf8(all));
}
