#pragma once
/// \file What the window and the forge say to each other (docs/forge-protocol.md): frames over a pipe, each
/// a 4-byte little-endian length, that many bytes of CBOR, then the raw blobs whose sizes "blobs" lists.

#include "core/base/result.hpp"

#include <nlohmann/json.hpp>

#include <optional>
#include <string>
#include <vector>

namespace gc {

struct Frame {
    nlohmann::json header;
    std::vector<std::string> blobs;
    std::string type() const { return header.value("type", ""); }
};

std::string encodeFrame(const Frame& frame);

/// Puts frames together from bytes as they arrive.
class FrameReader {
  public:
    void feed(const char* data, std::size_t size) { m_bytes.append(data, size); }
    /// The next whole frame. An error "frame.bad" means that the stream cannot be trusted any more.
    Result<std::optional<Frame>> next();

  private:
    std::string m_bytes;
    std::size_t m_at = 0;
};

/// A blob of plain numbers.
template <class T>
std::string blobOf(const std::vector<T>& values) {
    return std::string(reinterpret_cast<const char*>(values.data()), values.size() * sizeof(T));
}
template <class T>
std::vector<T> valuesOf(const std::string& blob) {
    std::vector<T> out(blob.size() / sizeof(T));
    std::copy_n(blob.data(), out.size() * sizeof(T), reinterpret_cast<char*>(out.data()));
    return out;
}

} // namespace gc
