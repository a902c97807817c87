#include "core/document/journal.hpp"

#include "core/base/file.hpp"
#include "core/base/hash.hpp"
#include "core/document/part_file.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <charconv>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

namespace gc {

namespace {

using Json = nlohmann::json;

constexpr const char* kHeader = "good-curve journal 1\n";

std::string hashOf(const std::string& text) {
    char buffer[20];
    std::snprintf(buffer, sizeof buffer, "%016llx",
                  static_cast<unsigned long long>(Hasher().bytes(text.data(), text.size()).value()));
    return buffer;
}

Error unwritable(const std::filesystem::path& path) {
    Error e;
    e.code = "journal.unwritable";
    e.sentence = "The journal \"" + path.string() + "\" cannot be written (" + std::strerror(errno) +
                 "). Save often until there is room again.";
    return e;
}

/// The next whole record, or nothing at the end or at a torn line.
std::optional<std::string> nextRecord(const std::string& text, std::size_t& at) {
    std::size_t size = 0;
    const auto number = std::from_chars(text.data() + at, text.data() + text.size(), size);
    if (number.ec != std::errc()) return std::nullopt;
    std::size_t k = static_cast<std::size_t>(number.ptr - text.data());
    if (size > text.size() || k + 18 + size + 1 > text.size() || text[k] != ' ' || text[k + 17] != ' ')
        return std::nullopt;
    const std::string hash = text.substr(k + 1, 16);
    std::string record = text.substr(k + 18, size);
    if (hash != hashOf(record) || text[k + 18 + size] != '\n') return std::nullopt;
    at = k + 18 + size + 1;
    return record;
}

} // namespace

Result<std::unique_ptr<Journal>> Journal::start(const std::filesystem::path& folder, const Part& part,
                                                const std::filesystem::path& file) {
    static std::atomic<int> counter{0};
    std::error_code failed;
    std::filesystem::create_directories(folder, failed);
    std::unique_ptr<Journal> journal(new Journal);
    journal->m_path = folder / (std::to_string(::time(nullptr)) + "-" + std::to_string(::getpid()) + "-" +
                                std::to_string(counter++) + ".journal");
    journal->m_fd = ::open(journal->m_path.c_str(), O_CREAT | O_RDWR | O_CLOEXEC, 0600);
    if (journal->m_fd < 0 || ::flock(journal->m_fd, LOCK_EX | LOCK_NB) != 0)
        return unwritable(journal->m_path);
    if (const auto done = journal->restart(part, file); !done) return done.error();
    return journal;
}

Journal::~Journal() {
    if (m_fd >= 0) ::close(m_fd);
}

Result<Done> Journal::restart(const Part& part, const std::filesystem::path& file) {
    if (m_fd < 0 || ::ftruncate(m_fd, 0) != 0 || ::lseek(m_fd, 0, SEEK_SET) < 0 ||
        ::write(m_fd, kHeader, std::strlen(kHeader)) < 0)
        return unwritable(m_path);
    m_lastState = writePart(part);
    return write(Json{{"file", file.string()}, {"part", Json::parse(m_lastState)}}.dump());
}

Result<Done> Journal::append(const Part& part, const std::string& what) {
    std::string state = writePart(part);
    const Json patch = Json::diff(Json::parse(m_lastState), Json::parse(state));
    auto done = write(Json{{"what", what}, {"patch", patch}}.dump());
    if (done) m_lastState = std::move(state);
    return done;
}

Result<Done> Journal::write(const std::string& json) {
    const std::string line = std::to_string(json.size()) + " " + hashOf(json) + " " + json + "\n";
    std::string_view rest = line;
    while (!rest.empty()) {
        const ssize_t n = ::write(m_fd, rest.data(), rest.size());
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return unwritable(m_path);
        rest.remove_prefix(static_cast<std::size_t>(n));
    }
    if (::fdatasync(m_fd) != 0) return unwritable(m_path);
    return Done{};
}

void Journal::discard() {
    std::error_code ignored;
    std::filesystem::remove(m_path, ignored);
}

std::filesystem::path journalFolder() {
    const char* state = std::getenv("XDG_STATE_HOME");
    const char* home = std::getenv("HOME");
    const std::filesystem::path base = state && *state ? std::filesystem::path(state)
                                       : home          ? std::filesystem::path(home) / ".local" / "state"
                                                       : std::filesystem::path("/tmp");
    return base / "good-curve";
}

Result<RecoveredWork> readJournal(const std::filesystem::path& path) {
    const auto text = readFile(path);
    if (!text) return text.error();
    Error e;
    e.code = "journal.damaged";
    e.sentence = "The journal \"" + path.string() + "\" is damaged from its start.";
    std::size_t at = std::strlen(kHeader);
    if (text->compare(0, at, kHeader) != 0) return e;
    RecoveredWork work;
    work.journal = path;
    Json state;
    bool first = true;
    while (const auto record = nextRecord(*text, at)) {
        const Json j = Json::parse(*record, nullptr, false);
        if (!j.is_object()) break;
        if (first) {
            if (!j.contains("part") || !j.contains("file") || !j["file"].is_string()) return e;
            state = j["part"];
            work.file = j["file"].get<std::string>();
            first = false;
            continue;
        }
        try {
            state = state.patch(j.at("patch"));
            work.lastEdit = j.at("what").get<std::string>();
        } catch (const Json::exception&) {
            break;
        }
        ++work.edits;
    }
    if (first) return e;
    auto part = readPart(state.dump());
    if (!part) return part.error();
    work.part = *part;
    return work;
}

std::vector<RecoveredWork> findLostWork(const std::filesystem::path& folder) {
    std::vector<std::filesystem::path> paths;
    std::error_code failed;
    for (const auto& entry : std::filesystem::directory_iterator(folder, failed))
        if (entry.path().extension() == ".journal") paths.push_back(entry.path());
    std::sort(paths.rbegin(), paths.rend());
    std::vector<RecoveredWork> found;
    for (const auto& path : paths) {
        const int fd = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
        if (fd < 0) continue;
        const bool free = ::flock(fd, LOCK_EX | LOCK_NB) == 0;
        if (free) {
            auto work = readJournal(path);
            if (work && work->edits > 0)
                found.push_back(std::move(*work));
            else if (work)
                std::filesystem::remove(path, failed);
        }
        ::close(fd);
    }
    return found;
}

} // namespace gc
