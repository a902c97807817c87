#pragma once
/// \file Frames over a pipe (docs/forge-protocol.md): what the window and the forge say to each other, before
/// it is understood. A frame is three little-endian numbers, the bytes of its header (4), of all its blobs
/// (8) and a mark (4); then the header as CBOR, which lists the blobs' sizes; then the blobs.

#include "core/base/result.hpp"

#include <nlohmann/json.hpp>

#include <optional>
#include <string>
#include <vector>

namespace gc {

struct Frame {
    nlohmann::json header;
    std::vector<std::string> blobs;
    std::string type() const;
};

std::string encodeFrame(const Frame& frame);

/// Puts frames together from bytes as they arrive. The sizes in front say when a frame is whole, so nothing
/// is looked at twice however small the pieces are.
class FrameReader {
  public:
    void feed(const char* data, std::size_t size) { m_bytes.append(data, size); }
    /// The next whole frame. An error "frame.bad" means that the stream cannot be trusted any more.
    Result<std::optional<Frame>> next();

  private:
    std::string m_bytes;
    std::size_t m_at = 0;
};

} // namespace gc
