#include "forge/protocol.hpp"

#include <cstring>

namespace gc {

namespace {

constexpr std::uint32_t kMostHeader = 64u << 20;
constexpr std::uint64_t kMostBlobs = 2ull << 30;

Error badFrame() {
    Error e;
    e.code = "frame.bad";
    e.sentence = "The worker and the window no longer understand each other.";
    return e;
}

} // namespace

std::string encodeFrame(const Frame& frame) {
    nlohmann::json header = frame.header;
    header["blobs"] = nlohmann::json::array();
    for (const std::string& b : frame.blobs) header["blobs"].push_back(b.size());
    const auto cbor = nlohmann::json::to_cbor(header);
    const auto size = static_cast<std::uint32_t>(cbor.size());
    std::string out(4, '\0');
    std::memcpy(out.data(), &size, 4);
    out.append(cbor.begin(), cbor.end());
    for (const std::string& b : frame.blobs) out += b;
    return out;
}

Result<std::optional<Frame>> FrameReader::next() {
    if (m_at > (1u << 20)) {
        m_bytes.erase(0, m_at);
        m_at = 0;
    }
    if (m_bytes.size() - m_at < 4) return std::optional<Frame>();
    std::uint32_t size = 0;
    std::memcpy(&size, m_bytes.data() + m_at, 4);
    if (size == 0 || size > kMostHeader) return badFrame();
    if (m_bytes.size() - m_at - 4 < size) return std::optional<Frame>();
    const auto begin = m_bytes.begin() + static_cast<std::ptrdiff_t>(m_at + 4);
    Frame frame;
    try { // the library throws on impossible sizes even when it is asked not to
        frame.header = nlohmann::json::from_cbor(begin, begin + size, true, false);
    } catch (const nlohmann::json::exception&) {
        return badFrame();
    }
    if (!frame.header.is_object() || !frame.header.contains("blobs") || !frame.header["blobs"].is_array())
        return badFrame();
    std::uint64_t total = 0;
    for (const auto& b : frame.header["blobs"]) {
        if (!b.is_number_unsigned()) return badFrame();
        total += b.get<std::uint64_t>();
        if (total > kMostBlobs) return badFrame();
    }
    if (m_bytes.size() - m_at - 4 - size < total) return std::optional<Frame>();
    std::size_t at = m_at + 4 + size;
    for (const auto& b : frame.header["blobs"]) {
        frame.blobs.push_back(m_bytes.substr(at, b.get<std::size_t>()));
        at += b.get<std::size_t>();
    }
    m_at = at;
    if (m_at == m_bytes.size()) {
        m_bytes.clear();
        m_bytes.shrink_to_fit();
        m_at = 0;
    }
    return std::optional<Frame>(std::move(frame));
}

} // namespace gc
