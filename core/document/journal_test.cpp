#include "core/base/file.hpp"
#include "core/base/hash.hpp"
#include "core/document/claim.hpp"
#include "core/document/journal.hpp"
#include "core/document/part_file.hpp"

#include "tests/support/seeded.hpp"
#include "tests/support/temporary_folder.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <csignal>
#include <cstdlib>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace gc;

namespace {

Part demo() {
    return *loadPart("demo/herb-pot.goodcurve");
}

} // namespace

TEST_CASE("What a journal holds comes back with its last edit") {
    const test::TemporaryFolder folder;
    {
        auto journal = Journal::start(folder.path(), demo(), "/tmp/pot.goodcurve");
        REQUIRE(journal.ok());
        CHECK(findLostWork(folder.path()).empty()); // it is held
        Part p = demo();
        p.values[0].expression = "2.8 mm";
        REQUIRE((*journal)->append(p, "wall 2.8 mm").ok());
        p.steps.pop_back();
        REQUIRE((*journal)->append(p, "hole deleted").ok());
    }
    const auto lost = findLostWork(folder.path());
    REQUIRE(lost.size() == 1);
    CHECK(lost[0].edits == 2);
    CHECK(lost[0].lastEdit == "hole deleted");
    CHECK(lost[0].file == "/tmp/pot.goodcurve");
    CHECK(lost[0].part.steps.size() == 5);
    CHECK(lost[0].part.values[0].expression == "2.8 mm");
}

TEST_CASE("A journal torn at any byte gives the edits that were whole") {
    const test::TemporaryFolder folder;
    std::filesystem::path path;
    {
        auto journal = Journal::start(folder.path(), demo(), "");
        path = (*journal)->path();
        Part p = demo();
        for (int k = 0; k < 4; ++k) {
            p.values[0].expression = std::to_string(k);
            REQUIRE((*journal)->append(p, "edit").ok());
        }
    }
    const std::string whole = *readFile(path);
    int last = 0;
    for (std::size_t n = 0; n <= whole.size(); n += 3) {
        REQUIRE(writeFileAtomically(path, whole.substr(0, n)).ok());
        const auto work = readJournal(path);
        if (!work) {
            CHECK(last == 0);
            continue;
        }
        CHECK(work->edits >= last);
        last = work->edits;
        if (last > 0) CHECK(work->part.values[0].expression == std::to_string(last - 1));
    }
    CHECK(last >= 3);
}

TEST_CASE("A process killed in the middle of its edits loses none that it had committed") {
    const test::TemporaryFolder folder;
    auto random = test::seeded(1U);
    for (int round = 0; round < test::rounds(10); ++round) {
        int pipeEnds[2];
        REQUIRE(::pipe(pipeEnds) == 0);
        const pid_t child = ::fork();
        if (child == 0) {
            auto journal = Journal::start(folder.path(), demo(), "");
            Part p = demo();
            for (int k = 0; k < 100000; ++k) {
                p.values[0].expression = std::to_string(k);
                if (!(*journal)->append(p, "edit").ok()) ::_exit(1);
                if (::write(pipeEnds[1], &k, sizeof k) != sizeof k) ::_exit(1); // "shown as done"
            }
            ::_exit(0);
        }
        ::close(pipeEnds[1]);
        const int wanted = 1 + static_cast<int>(random() % 40);
        int shown = -1;
        while (shown < wanted && ::read(pipeEnds[0], &shown, sizeof shown) == sizeof shown) {
        }
        ::kill(child, SIGKILL);
        ::waitpid(child, nullptr, 0);
        int k = 0;
        while (::read(pipeEnds[0], &k, sizeof k) == sizeof k) shown = k;
        ::close(pipeEnds[0]);
        const auto lost = findLostWork(folder.path());
        REQUIRE(lost.size() == 1);
        CHECK(std::stoi(lost[0].part.values[0].expression) >= shown);
        std::filesystem::remove(lost[0].journal);
    }
}

TEST_CASE("A commit writes what it changed: never an attachment twice, never a step that stayed") {
    const test::TemporaryFolder folder;
    Part p = demo();
    p.attachments.push_back({"big.step", std::string(5u << 20, 'x')});
    auto journal = Journal::start(folder.path(), p, "");
    REQUIRE(journal.ok());
    const auto size = [&] { return std::filesystem::file_size((*journal)->path()); };
    const auto begun = size();
    CHECK(begun > (5u << 20));
    p.findStep(5)->slots["radius"] = std::string("1 mm");
    REQUIRE((*journal)->append(p, "radius 1 mm").ok());
    CHECK(size() - begun < 600); // one short step
    const auto second = size();
    p.attachments.push_back({"other.step", std::string(1u << 20, 'y')});
    REQUIRE((*journal)->append(p, "imported").ok());
    CHECK(size() - second > (1u << 20));
    const auto third = size();
    std::swap(p.steps[2], p.steps[3]);
    p.attachments.erase(p.attachments.begin());
    p.brief.targets.pop_back();
    REQUIRE((*journal)->append(p, "moved").ok());
    CHECK(size() - third < 4000);
    const auto work = readJournal((*journal)->path());
    REQUIRE(work.ok());
    CHECK(writePart(work->part) == writePart(p));
    CHECK(work->edits == 3);
}

TEST_CASE("Journals of the first format are read") {
    const test::TemporaryFolder folder;
    const auto path = folder.path() / "old.journal";
    const auto line = [](const nlohmann::json& j) {
        const std::string text = j.dump();
        char hash[20];
        std::snprintf(hash, sizeof hash, "%016llx",
                      static_cast<unsigned long long>(Hasher().bytes(text.data(), text.size()).value()));
        return std::to_string(text.size()) + " " + hash + " " + text + "\n";
    };
    const auto part = nlohmann::json::parse(writePart(demo()));
    auto edited = part;
    edited["name"] = "Other pot";
    const std::string content = "good-curve journal 1\n" +
                                line({{"file", "/tmp/a.goodcurve"}, {"part", part}}) +
                                line({{"what", "renamed"}, {"patch", nlohmann::json::diff(part, edited)}});
    REQUIRE(writeFileAtomically(path, content).ok());
    const auto work = readJournal(path);
    REQUIRE(work.ok());
    CHECK(work->part.name == "Other pot");
    CHECK(work->lastEdit == "renamed");
    CHECK(work->file == "/tmp/a.goodcurve");
}

TEST_CASE("Garbled journals end in what was whole or in a sentence") {
    const test::TemporaryFolder folder;
    std::filesystem::path path;
    {
        auto journal = Journal::start(folder.path(), demo(), "");
        path = (*journal)->path();
        Part p = demo();
        for (int k = 0; k < 3; ++k) {
            p.values[0].expression = std::to_string(k + 2);
            REQUIRE((*journal)->append(p, "edit").ok());
        }
    }
    const std::string whole = *readFile(path);
    auto random = test::seeded(3U);
    for (int round = 0; round < test::rounds(400); ++round) {
        std::string bad = whole;
        for (int k = 0; k < 3; ++k) bad[random() % bad.size()] = static_cast<char>(random());
        REQUIRE(writeFileAtomically(path, bad).ok());
        const auto work = readJournal(path);
        if (work)
            CHECK(work->edits <= 3);
        else
            CHECK(work.error().sentence.text().size() > 20);
    }
}

TEST_CASE("Saving begins the journal again and a clean end leaves none") {
    const test::TemporaryFolder folder;
    auto journal = Journal::start(folder.path(), demo(), "");
    Part p = demo();
    p.name = "Other";
    REQUIRE((*journal)->append(p, "renamed").ok());
    REQUIRE((*journal)->restart(p, "/tmp/x.goodcurve").ok());
    CHECK(readJournal((*journal)->path())->edits == 0);
    CHECK(readJournal((*journal)->path())->part.name == "Other");
    (*journal)->discard();
    CHECK(std::filesystem::is_empty(folder.path()));
}

namespace {

/// For as long as it lives no file of this process grows beyond so many bytes: a disk that is full, for
/// anybody.
class FullDisk {
  public:
    explicit FullDisk(rlim_t bytes) {
        ::signal(SIGXFSZ, SIG_IGN);
        ::getrlimit(RLIMIT_FSIZE, &m_before);
        rlimit now = m_before;
        now.rlim_cur = bytes;
        ::setrlimit(RLIMIT_FSIZE, &now);
    }
    ~FullDisk() { ::setrlimit(RLIMIT_FSIZE, &m_before); }
    FullDisk(const FullDisk&) = delete;
    FullDisk& operator=(const FullDisk&) = delete;

  private:
    rlimit m_before{};
};

std::string wall(const RecoveredWork& work) {
    return work.part.values[0].expression;
}

} // namespace

TEST_CASE("After a full disk the journal goes on: what could not be kept is in the next record") {
    const test::TemporaryFolder folder;
    auto journal = Journal::start(folder.path(), demo(), "");
    Part p = demo();
    const auto edit = [&](int k) {
        p.values[0].expression = std::to_string(k) + " mm";
        p.steps[2].slots["wall"] = std::to_string(k) + " mm";
        return (*journal)->append(p, "edit " + std::to_string(k)).ok();
    };
    REQUIRE(edit(1));
    const auto whole = std::filesystem::file_size((*journal)->path());
    for (const std::size_t room : {0U, 1U, 40U, 300U}) {
        const FullDisk full(whole + room);
        CHECK_FALSE(edit(2));
        CHECK(std::filesystem::file_size((*journal)->path()) == whole); // nothing torn stays behind
        CHECK(wall(*readJournal((*journal)->path())) == "1 mm");
    }
    REQUIRE(edit(3));
    const auto work = readJournal((*journal)->path());
    REQUIRE(work.ok());
    CHECK(work->edits == 2);
    CHECK(work->skipped == 0);
    CHECK(writePart(work->part) == writePart(p));
}

TEST_CASE("A torn record in the middle costs that edit alone") {
    const test::TemporaryFolder folder;
    auto journal = Journal::start(folder.path(), demo(), "");
    Part p = demo();
    std::vector<std::uintmax_t> ends{std::filesystem::file_size((*journal)->path())};
    for (int k = 1; k <= 5; ++k) {
        p.values[0].expression = std::to_string(k) + " mm";
        REQUIRE((*journal)->append(p, "edit " + std::to_string(k)).ok());
        ends.push_back(std::filesystem::file_size((*journal)->path()));
    }
    const std::string whole = *readFile((*journal)->path());
    // The third record breaks off at every byte, and the fourth follows on the same line.
    for (std::uintmax_t n = ends[2]; n < ends[3]; ++n) {
        const std::string torn = whole.substr(0, n) + whole.substr(ends[3]);
        REQUIRE(writeFileAtomically((*journal)->path(), torn).ok());
        const auto work = readJournal((*journal)->path());
        REQUIRE(work.ok());
        CHECK(work->edits == 4);
        CHECK(work->skipped == (n == ends[2] ? 0 : 1));
        CHECK(wall(*work) == "5 mm");
        CHECK(work->lastEdit == "edit 5");
    }
}

TEST_CASE("Beginning again on a full disk leaves the journal as it was") {
    const test::TemporaryFolder folder;
    auto journal = Journal::start(folder.path(), demo(), "");
    Part p = demo();
    p.values[0].expression = "7 mm";
    REQUIRE((*journal)->append(p, "seven").ok());
    {
        const FullDisk full(200);
        CHECK_FALSE((*journal)->restart(p, folder.file("a.goodcurve")).ok());
    }
    CHECK(wall(*readJournal((*journal)->path())) == "7 mm");
    CHECK(readJournal((*journal)->path())->edits == 1);
    p.values[0].expression = "8 mm";
    REQUIRE((*journal)->append(p, "eight").ok());
    CHECK(readJournal((*journal)->path())->edits == 2);
    CHECK(std::distance(std::filesystem::directory_iterator(folder.path()), {}) == 1);
}

TEST_CASE("Work is lost of the very file that it was on, wherever the program is started next") {
    const test::TemporaryFolder folder;
    const auto before = std::filesystem::current_path();
    Part p = demo();
    std::filesystem::current_path(folder.path());
    REQUIRE(savePart(p, "part.goodcurve").ok());
    {
        auto journal = Journal::start(folder.path() / "state", p, "part.goodcurve");
        std::filesystem::current_path(before);
        p.name = "Other";
        REQUIRE((*journal)->append(p, "renamed").ok());
    }
    const auto lost = findLostWork(folder.path() / "state");
    REQUIRE(lost.size() == 1);
    CHECK(lost[0].file == folder.path() / "part.goodcurve");
    REQUIRE(lost[0].fileHash.has_value());
    CHECK(lost[0].fileHash == contentHash(lost[0].file));
    REQUIRE(writeFileAtomically(lost[0].file, "of somebody else").ok());
    CHECK(lost[0].fileHash != contentHash(lost[0].file));
    CHECK(std::abs(static_cast<double>(lost[0].lastWritten) - static_cast<double>(::time(nullptr))) < 60);
}

TEST_CASE("What lies in the folder like a journal and is none keeps nobody waiting") {
    const test::TemporaryFolder folder;
    REQUIRE(::mkfifo(folder.file("9-9-9.journal").c_str(), 0600) == 0);
    std::filesystem::create_directory(folder.path() / "8-8-8.journal");
    CHECK(findLostWork(folder.path()).empty());
}

TEST_CASE("A file is held by one window at a time, however it is called, and by none that is gone") {
    const test::TemporaryFolder folder;
    const auto state = folder.path() / "state";
    REQUIRE(writeFileAtomically(folder.file("a.goodcurve"), "x").ok());
    std::filesystem::create_symlink("a.goodcurve", folder.file("link.goodcurve"));
    auto held = FileClaim::take(state, folder.file("a.goodcurve"));
    REQUIRE(held);
    CHECK_FALSE(FileClaim::take(state, folder.file("link.goodcurve")));
    CHECK_FALSE(FileClaim::take(state, folder.path() / "state" / ".." / "a.goodcurve"));
    CHECK(FileClaim::take(state, folder.file("b.goodcurve")));
    held.reset();
    const pid_t child = ::fork(); // takes it and is killed
    if (child == 0) {
        auto mine = FileClaim::take(state, folder.file("a.goodcurve"));
        ::raise(SIGKILL);
    }
    ::waitpid(child, nullptr, 0);
    held = FileClaim::take(state, folder.file("link.goodcurve"));
    CHECK(held);
    held.reset();
    CHECK(std::filesystem::is_empty(state));
}
