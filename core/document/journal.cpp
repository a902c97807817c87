#include "core/document/journal.hpp"

#include "core/base/file.hpp"
#include "core/base/hash.hpp"
#include "core/document/part_json.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <charconv>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>
#include <utility>

namespace gc {

namespace {

using Json = nlohmann::json;

constexpr const char* kHeader = "good-curve journal 2\n";
constexpr const char* kFirstHeader = "good-curve journal 1\n";

std::string hashOf(const std::string& text) {
    char buffer[20];
    std::snprintf(buffer, sizeof buffer, "%016llx",
                  static_cast<unsigned long long>(Hasher().bytes(text.data(), text.size()).value()));
    return buffer;
}

std::string hex(std::uint64_t v) {
    char buffer[20];
    std::snprintf(buffer, sizeof buffer, "%016llx", static_cast<unsigned long long>(v));
    return buffer;
}

/// A record as a line of the journal.
std::string lineOf(const Json& record) {
    // What is not valid is replaced: nothing must keep an edit from being written.
    const std::string json = record.dump(-1, ' ', false, Json::error_handler_t::replace);
    return std::to_string(json.size()) + " " + hashOf(json) + " " + json + "\n";
}

Error unwritable(const std::filesystem::path& path) {
    Error e;
    e.code = "journal.unwritable";
    e.sentence = phrase("The journal \"%1\" cannot be written (%2). Save often until there is room again.",
                        path.string(), std::strerror(errno));
    return e;
}

/// The record that begins just there; nothing when none does.
std::optional<std::string> recordAt(const std::string& text, std::size_t& at) {
    std::size_t size = 0;
    const auto number = std::from_chars(text.data() + at, text.data() + text.size(), size);
    if (number.ec != std::errc()) return std::nullopt;
    const auto k = static_cast<std::size_t>(number.ptr - text.data());
    if (size > text.size() || k + 18 + size + 1 > text.size() || text[k] != ' ' || text[k + 17] != ' ' ||
        text[k + 18 + size] != '\n')
        return std::nullopt;
    std::string record = text.substr(k + 18, size);
    if (text.compare(k + 1, 16, hashOf(record)) != 0) return std::nullopt;
    at = k + 18 + size + 1;
    return record;
}

/// The next whole record, or nothing at the end. Between it and the place may be torn ones.
std::optional<std::string> nextRecord(const std::string& text, std::size_t& at, bool& skipped) {
    skipped = false;
    if (auto record = recordAt(text, at)) return record;
    const auto digit = [&](std::size_t i) { return text[i] >= '0' && text[i] <= '9'; };
    for (std::size_t i = at + 1; i < text.size(); ++i) {
        if (!digit(i)) continue;
        // Torn in the middle of a number, a record begins within a row of digits: each may be its first.
        std::size_t there = i;
        if (auto record = recordAt(text, there)) {
            at = there;
            skipped = true;
            return record;
        }
    }
    return std::nullopt;
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
    if (const auto done = journal->restart(part, file); !done) return done.error();
    return journal;
}

Journal::~Journal() {
    if (m_fd >= 0) ::close(m_fd);
}

std::string Journal::attachments(const Part& part) {
    std::string lines;
    for (const Attachment& a : part.attachments)
        if (m_held.insert(a.content.hash()).second)
            lines += lineOf(Json{{"attachment", hex(a.content.hash())}, {"content", a.content.text()}});
    return lines;
}

std::string Journal::beginning(const Part& part, const std::filesystem::path& file) {
    m_held.clear();
    m_last = Part();
    m_lastHead.clear();
    std::string lines = kHeader + attachments(part);
    Json record = difference(part);
    std::error_code failed;
    const auto absolute = file.empty() ? file : std::filesystem::absolute(file, failed);
    record["file"] = (failed ? file : absolute).string();
    if (const auto hash = file.empty() ? std::nullopt : contentHash(file)) record["file_hash"] = hex(*hash);
    return lines + lineOf(record);
}

Result<Done> Journal::restart(const Part& part, const std::filesystem::path& file) {
    const Part last = m_last;
    const std::string lastHead = m_lastHead;
    const auto held = m_held;
    if (auto done = replace(beginning(part, file)); !done) {
        m_last = last;
        m_lastHead = lastHead;
        m_held = held;
        return done;
    }
    m_base = part;
    m_file = file;
    return Done{};
}

Result<Done> Journal::replace(const std::string& content) {
    std::filesystem::path fresh = m_path;
    fresh += ".new";
    const int fd = ::open(fresh.c_str(), O_CREAT | O_TRUNC | O_RDWR | O_CLOEXEC | O_NONBLOCK, 0600);
    const auto failure = [&] {
        const auto e = unwritable(m_path);
        if (fd >= 0) ::close(fd);
        ::unlink(fresh.c_str());
        return e;
    };
    if (fd < 0 || ::flock(fd, LOCK_EX | LOCK_NB) != 0) return failure();
    const int before = std::exchange(m_fd, fd);
    const auto whole = std::exchange(m_whole, 0);
    const bool torn = std::exchange(m_torn, false);
    if (!write(content) || ::rename(fresh.c_str(), m_path.c_str()) != 0) {
        m_fd = before;
        m_whole = whole;
        m_torn = torn;
        return failure();
    }
    if (before >= 0) ::close(before);
    syncFolder(m_path.parent_path());
    return Done{};
}

Result<Done> Journal::append(const Part& part, const std::string& what) {
    constexpr std::uint64_t kMostBytes = 128u << 20; // then what was undone long ago is let go
    const Part last = m_last;
    const std::string lastHead = m_lastHead;
    const auto held = m_held;
    std::string lines = attachments(part);
    Json record = difference(part);
    record["what"] = what;
    lines += lineOf(record);
    auto done = m_whole + lines.size() <= kMostBytes ? write(lines) : [&] {
        std::string content = beginning(m_base, m_file) + attachments(part);
        record = difference(part);
        record["what"] = what;
        return replace(content + lineOf(record));
    }();
    if (!done) { // what is not on disk is still to be written
        m_last = last;
        m_lastHead = lastHead;
        m_held = held;
    }
    return done;
}

/// All of it, behind the last whole record; or nothing.
Result<Done> Journal::write(const std::string& lines) {
    const auto cutBack = [this] {
        return ::ftruncate(m_fd, static_cast<off_t>(m_whole)) == 0 &&
               ::lseek(m_fd, static_cast<off_t>(m_whole), SEEK_SET) >= 0;
    };
    if (m_torn && !cutBack()) return unwritable(m_path);
    m_torn = true;
    std::string_view rest = lines;
    while (!rest.empty()) {
        const ssize_t n = ::write(m_fd, rest.data(), rest.size());
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) break;
        rest.remove_prefix(static_cast<std::size_t>(n));
    }
    if (!rest.empty() || ::fdatasync(m_fd) != 0) {
        auto failed = unwritable(m_path);
        m_torn = !cutBack();
        return failed;
    }
    m_torn = false;
    m_whole += lines.size();
    return Done{};
}

/// What of the part is other than at the last record; the part is the last from now on.
nlohmann::json Journal::difference(const Part& part) {
    Json record = Json::object();
    const Json head = headToJson(part);
    if (std::string text = head.dump(); text != m_lastHead) {
        record["head"] = head;
        m_lastHead = std::move(text);
    }
    const auto order = [](const Part& p) {
        std::vector<int> ids;
        for (const Step& s : p.steps) ids.push_back(s.id);
        return ids;
    };
    if (order(part) != order(m_last)) record["order"] = order(part);
    std::map<int, const Step*> before;
    for (const Step& s : m_last.steps) before[s.id] = &s;
    for (const Step& s : part.steps)
        if (const auto it = before.find(s.id); it == before.end() || !(*it->second == s))
            record["changed"].push_back(Json(stepToJson(s)));
    const auto files = [](const Part& p) {
        Json list = Json::array();
        for (const Attachment& a : p.attachments)
            list.push_back({{"name", a.name}, {"hash", hex(a.content.hash())}});
        return list;
    };
    if (Json now = files(part); now != files(m_last)) record["files"] = std::move(now);
    m_last = part;
    return record;
}

void Journal::discard() {
    std::error_code ignored;
    std::filesystem::remove(m_path, ignored);
    syncFolder(m_path.parent_path());
}

std::filesystem::path journalFolder() {
    const char* state = std::getenv("XDG_STATE_HOME");
    const char* home = std::getenv("HOME");
    const std::filesystem::path base = state && *state ? std::filesystem::path(state)
                                       : home          ? std::filesystem::path(home) / ".local" / "state"
                                                       : std::filesystem::path("/tmp");
    return base / "good-curve";
}

namespace {

/// Puts a part together from the records of the second format.
class Replay {
  public:
    static constexpr bool kReadsOn = true; ///< past damaged records

    /// False when the record makes no sense: it and what follows it are left out.
    bool take(const Json& record, RecoveredWork& work) {
        if (const auto a = record.find("attachment"); a != record.end()) {
            if (!a->is_string() || !record.contains("content") || !record["content"].is_string())
                return false;
            m_contents[a->get<std::string>()] = record["content"].get<std::string>();
            return true;
        }
        const bool first = !m_begun;
        if (first != record.contains("file") || first == record.contains("what")) return false;
        try {
            if (record.contains("head")) m_head = record["head"];
            if (record.contains("order")) m_order = record["order"].get<std::vector<int>>();
            if (record.contains("files")) m_files = record["files"];
            if (record.contains("changed"))
                for (const Json& s : record["changed"]) m_steps[s.at("id").get<int>()] = s;
            if (first) {
                work.file = record["file"].get<std::string>();
                if (record.contains("file_hash"))
                    work.fileHash = std::stoull(record["file_hash"].get<std::string>(), nullptr, 16);
            } else
                work.lastEdit = record["what"].get<std::string>();
        } catch (const std::exception&) {
            return false;
        }
        if (!first) ++work.edits;
        m_begun = true;
        return true;
    }
    bool begun() const { return m_begun; }

    Result<Part> part() const {
        nlohmann::ordered_json root = m_head;
        if (!root.is_object()) root = nlohmann::ordered_json::object();
        root["steps"] = nlohmann::ordered_json::array();
        for (const int id : m_order)
            if (const auto s = m_steps.find(id); s != m_steps.end())
                root["steps"].push_back(nlohmann::ordered_json(s->second));
        root["attachments"] = nlohmann::ordered_json::array();
        for (const Json& f : m_files) {
            const auto content = m_contents.find(f.value("hash", ""));
            if (content != m_contents.end())
                root["attachments"].push_back({{"name", f.value("name", "")}, {"content", content->second}});
        }
        return partFromJson(root);
    }

  private:
    bool m_begun = false;
    Json m_head, m_files = Json::array();
    std::vector<int> m_order;
    std::map<int, Json> m_steps;
    std::map<std::string, std::string> m_contents;
};

/// The records of the first format: the whole part, then patches on it.
class PatchReplay {
  public:
    static constexpr bool kReadsOn = false; ///< each patch is on the state before it

    bool take(const Json& record, RecoveredWork& work) {
        if (!m_begun) {
            if (!record.contains("part") || !record.contains("file") || !record["file"].is_string())
                return false;
            m_state = record["part"];
            work.file = record["file"].get<std::string>();
            m_begun = true;
            return true;
        }
        try {
            m_state = m_state.patch(record.at("patch"));
            work.lastEdit = record.at("what").get<std::string>();
        } catch (const Json::exception&) {
            return false;
        }
        ++work.edits;
        return true;
    }
    bool begun() const { return m_begun; }
    Result<Part> part() const { return partFromJson(nlohmann::ordered_json(m_state)); }

  private:
    bool m_begun = false;
    Json m_state;
};

template <class Records>
Result<RecoveredWork> replay(const std::string& text, std::size_t at, RecoveredWork work,
                             const Error& damaged) {
    Records records;
    bool skipped = false;
    while (const auto record = nextRecord(text, at, skipped)) {
        if (skipped && !Records::kReadsOn) break;
        work.skipped += skipped ? 1 : 0;
        const Json j = Json::parse(*record, nullptr, false);
        if (j.is_object() && records.take(j, work)) continue;
        if (!Records::kReadsOn) break;
        ++work.skipped;
    }
    if (!records.begun()) return damaged;
    auto part = records.part();
    if (!part) return part.error();
    work.part = std::move(*part);
    return work;
}

} // namespace

Result<RecoveredWork> readJournal(const std::filesystem::path& path) {
    constexpr std::size_t kMostBytes = 1u << 30;
    const auto text = readFile(path, kMostBytes);
    if (!text) return text.error();
    const Error e =
        errorOf("journal.damaged", phrase("The journal \"%1\" is damaged from its start.", path.string()));
    const std::size_t at = std::strlen(kHeader);
    RecoveredWork work;
    work.journal = path;
    struct stat info {};
    if (::stat(path.c_str(), &info) == 0) work.lastWritten = info.st_mtime;
    if (text->compare(0, at, kHeader) == 0) return replay<Replay>(*text, at, std::move(work), e);
    if (text->compare(0, at, kFirstHeader) == 0) return replay<PatchReplay>(*text, at, std::move(work), e);
    return e;
}

std::vector<RecoveredWork> findLostWork(const std::filesystem::path& folder) {
    std::vector<std::filesystem::path> paths;
    std::error_code failed;
    for (const auto& entry : std::filesystem::directory_iterator(folder, failed))
        if (entry.path().extension() == ".journal" && entry.is_regular_file(failed))
            paths.push_back(entry.path());
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
