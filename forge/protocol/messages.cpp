#include "forge/protocol/messages.hpp"

#include <algorithm>
#include <numeric>

namespace gc::say {

namespace {

template <class Variant, std::size_t I = 0>
Result<Variant> decode(const Frame& frame, const std::string& type) {
    if constexpr (I == std::variant_size_v<Variant>)
        return errorOf(
            "message.unknown",
            phrase("The worker and the window no longer understand each other: \"%1\" is not known.", type));
    else {
        using M = std::variant_alternative_t<I, Variant>;
        if (type != M::kType) return decode<Variant, I + 1>(frame, type);
        auto message = fromFrame<M>(frame);
        if (!message) return message.error();
        return Variant(std::move(*message));
    }
}

template <class Variant>
Frame encodeAny(const Variant& message) {
    return std::visit([](const auto& m) { return toFrame(m); }, message);
}

} // namespace

std::string Patches::wrong() const {
    if (counts.size() != 3 * keys.size()) return "a patch has no counts";
    if (points.size() % 3 != 0 || points.size() != normals.size()) return "a vertex lacks a number";
    std::size_t sum = 0, corner = 0;
    for (std::size_t f = 0; f < keys.size(); ++f) {
        const std::uint32_t here = counts[3 * f], own = counts[3 * f + 1], faces = counts[3 * f + 2];
        if (here > 1) return "a patch is neither here nor held";
        if (here == 0) {
            if (own != 0 || faces != 0) return "a patch that is held has triangles here";
            continue;
        }
        if (3 * std::uint64_t{faces} > triangles.size() - corner) return "triangles are missing";
        for (std::size_t k = 0; k < 3 * std::size_t{faces}; ++k)
            if (triangles[corner + k] >= own) return "a triangle has a corner that is not there";
        corner += 3 * std::size_t{faces};
        sum += own;
    }
    if (corner != triangles.size()) return "there are triangles of no patch";
    return sum == vertices() ? "" : "there are more or fewer vertices than the patches have";
}

std::string BodySurface::wrong() const {
    if (std::string fault = faces.wrong(); !fault.empty()) return fault;
    if (flat.size() != faces.keys.size()) return "a face does not say whether it is flat";
    if (edgeSmooth.size() != edgeSizes.size()) return "an edge does not say whether it is smooth";
    if (bends.size() != faces.vertices()) return "a vertex does not say how it bends";
    if (lineBends.size() != lines.size()) return "a point of an edge does not say how it bends";
    const std::uint64_t points = std::accumulate(edgeSizes.begin(), edgeSizes.end(), std::uint64_t{0});
    return lines.size() == 3 * points ? "" : "the edges have more or fewer points than are there";
}

std::string BodyValues::wrong() const {
    if (std::string fault = faces.wrong(); !fault.empty()) return fault;
    const std::size_t n = faces.vertices();
    return ray.size() == n && ball.size() == n && lean.size() == n && away.size() == n
               ? ""
               : "a vertex has no value";
}

std::string GuidesShown::wrong() const {
    if (points.size() % 3 != 0) return "a point lacks a number";
    for (const DrawingShown& d : drawings)
        for (const StrokeShown& s : d.strokes)
            if (std::uint64_t{s.first} + s.count > points.size() / 3)
                return "a stroke has points that are not there";
    for (const DrawingShown& d : drawings)
        for (const AreaShown& a : d.areas) {
            if (a.loops.size() % 2 != 0) return "a border lacks its length";
            for (std::size_t i = 0; i < a.loops.size(); i += 2)
                if (std::uint64_t{a.loops[i]} + a.loops[i + 1] > points.size() / 3)
                    return "a border has points that are not there";
        }
    return {};
}

std::string AidsShown::wrong() const {
    if (points.size() % 3 != 0 || normals.size() != points.size()) return "a vertex lacks a number";
    if (triangles.size() % 3 != 0) return "a triangle lacks a corner";
    for (const std::uint32_t i : triangles)
        if (i >= points.size() / 3) return "a triangle has corners that are not there";
    std::uint64_t sum = 0;
    for (const std::uint32_t n : edgeSizes) sum += n;
    if (sum * 3 != lines.size()) return "an edge has points that are not there";
    std::uint64_t corners = 0, pieces = 0;
    for (const FileBodyShown& b : fileBodies) {
        for (std::uint64_t i = 3 * pieces; i < 3 * (pieces + b.triangles) && i < bodyTriangles.size(); ++i)
            if (bodyTriangles[i] >= b.points) return "a triangle of a picture has corners that are not there";
        corners += b.points, pieces += b.triangles;
    }
    if (corners * 3 != bodyPoints.size() || pieces * 3 != bodyTriangles.size())
        return "a picture has points that are not there";
    return {};
}

Frame encode(const ToForge& message) {
    return encodeAny(message);
}
Frame encode(const ToWindow& message) {
    return encodeAny(message);
}
Result<ToForge> decodeToForge(const Frame& frame) {
    return decode<ToForge>(frame, frame.type());
}
Result<ToWindow> decodeToWindow(const Frame& frame) {
    return decode<ToWindow>(frame, frame.type());
}

} // namespace gc::say
