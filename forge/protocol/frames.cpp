#include "forge/protocol/frames.hpp"

#include <cstring>
#include <vector>

namespace gc {

namespace {

constexpr std::uint32_t kMark = 0x32464347; // "GCF2"
constexpr std::size_t kPrefix = 16;
constexpr std::uint32_t kMostHeader = 80u << 20; // the largest attachment, and what is said about it
constexpr std::uint64_t kMostBlobs = 2ull << 30;

Error badFrame() {
    return errorOf("frame.bad", "The worker and the window no longer understand each other.");
}

template <class T>
void put(std::string& out, T v) {
    out.append(reinterpret_cast<const char*>(&v), sizeof v);
}

template <class T>
T take(const char*& at) {
    T v;
    std::memcpy(&v, at, sizeof v);
    at += sizeof v;
    return v;
}

/// Is the header no deeper than ours ever are? The library reads what is nested by calling itself, so that a
/// frame of a few kilobytes could use up the stack. Also refuses what our writer never writes: lengths that
/// are not said. CBOR as in RFC 8949: a byte of kind and length, then what it announces.
bool isShallow(const char* from, std::size_t size) {
    constexpr std::size_t kDeepest = 32;
    std::vector<std::uint64_t> open{1}; // how many items each level still lacks
    std::size_t at = 0;
    while (!open.empty()) {
        if (open.back() == 0) {
            open.pop_back();
            continue;
        }
        if (at >= size || open.size() > kDeepest) return false;
        --open.back();
        const auto head = static_cast<unsigned char>(from[at++]);
        const unsigned kind = head >> 5, info = head & 31;
        std::uint64_t value = info;
        if (info > 27) return false;
        if (info >= 24) {
            const std::size_t bytes = std::size_t{1} << (info - 24);
            if (size - at < bytes) return false;
            value = 0;
            for (std::size_t i = 0; i < bytes; ++i)
                value = value << 8 | static_cast<unsigned char>(from[at++]);
        }
        const bool text = kind == 2 || kind == 3, list = kind == 4, map = kind == 5, tag = kind == 6;
        if ((text || list || map) && value > size - at) return false; // each of them takes a byte at least
        if (text) at += static_cast<std::size_t>(value);
        if (list || tag) open.push_back(tag ? 1 : value);
        if (map) open.push_back(2 * value);
    }
    return at == size;
}

/// The blobs as the header lists them; false when the sizes do not add up.
bool cutBlobs(Frame& frame, const char* from, std::uint64_t total) {
    const auto sizes = frame.header.find("blobs");
    if (sizes == frame.header.end() || !sizes->is_array()) return false;
    std::uint64_t used = 0;
    for (const auto& s : *sizes) {
        if (!s.is_number_unsigned()) return false;
        const auto size = s.get<std::uint64_t>();
        if (size > total - used) return false;
        frame.blobs.emplace_back(from + used, size);
        used += size;
    }
    return used == total;
}

} // namespace

std::string Frame::type() const {
    const auto it = header.is_object() ? header.find("type") : header.end();
    return header.is_object() && it != header.end() && it->is_string() ? it->get<std::string>()
                                                                       : std::string();
}

std::string encodeFrame(const Frame& frame) {
    nlohmann::json header = frame.header;
    header["blobs"] = nlohmann::json::array();
    std::uint64_t blobs = 0;
    for (const std::string& b : frame.blobs) {
        header["blobs"].push_back(b.size());
        blobs += b.size();
    }
    const auto cbor = nlohmann::json::to_cbor(header);
    std::string out;
    out.reserve(kPrefix + cbor.size() + blobs);
    put(out, static_cast<std::uint32_t>(cbor.size()));
    put(out, blobs);
    put(out, kMark);
    out.append(cbor.begin(), cbor.end());
    for (const std::string& b : frame.blobs) out += b;
    return out;
}

Result<std::optional<Frame>> FrameReader::next() {
    constexpr std::size_t kWorthMoving = 1u << 20;
    if (m_at > kWorthMoving) {
        m_bytes.erase(0, m_at);
        m_at = 0;
    }
    if (m_bytes.size() - m_at < kPrefix) return std::optional<Frame>();
    const char* at = m_bytes.data() + m_at;
    const auto headerSize = take<std::uint32_t>(at);
    const auto blobSize = take<std::uint64_t>(at);
    const auto mark = take<std::uint32_t>(at);
    if (mark != kMark || headerSize == 0 || headerSize > kMostHeader || blobSize > kMostBlobs)
        return badFrame();
    const std::size_t whole = kPrefix + headerSize + static_cast<std::size_t>(blobSize);
    if (m_bytes.size() - m_at < whole) return std::optional<Frame>();
    if (!isShallow(at, headerSize)) return badFrame();
    Frame frame;
    try { // the library throws on impossible sizes even when it is asked not to
        frame.header = nlohmann::json::from_cbor(at, at + headerSize, true, false);
    } catch (const nlohmann::json::exception&) {
        return badFrame();
    }
    if (!frame.header.is_object() || !cutBlobs(frame, at + headerSize, blobSize)) return badFrame();
    m_at += whole;
    if (m_at == m_bytes.size()) {
        m_bytes.clear();
        m_bytes.shrink_to_fit();
        m_at = 0;
    }
    return std::optional<Frame>(std::move(frame));
}

} // namespace gc
