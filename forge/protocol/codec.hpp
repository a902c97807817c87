#pragma once
/// \file One description of a message for both ways: a message has `fields(visitor)`, which names every
/// field; the writer puts them into a frame, the reader takes them out and checks each. A wrong frame is an
/// error.

#include "core/base/plane.hpp"
#include "forge/protocol/frames.hpp"

#include <array>
#include <cmath>
#include <concepts>
#include <cstring>
#include <limits>

namespace gc {

class FieldWriter;
class FieldReader;

template <class T>
concept HasFields = requires(T t, FieldWriter& w) {
    t.fields(w);
};
/// What must hold between fields: empty when it does.
template <class T>
concept Checked = requires(const T t) {
    { t.wrong() } -> std::convertible_to<std::string>;
};

/// Puts fields into a frame's header; large rows of numbers become blobs.
class FieldWriter {
  public:
    FieldWriter(nlohmann::json& out, std::vector<std::string>& blobs) : m_out(out), m_blobs(blobs) {}

    template <class T>
    void operator()(const char* key, T& value) {
        m_out[key] = written(value);
    }
    template <class T>
    void blob(const char* key, std::vector<T>& values) {
        m_out[key] = m_blobs.size();
        m_blobs.emplace_back(reinterpret_cast<const char*>(values.data()), values.size() * sizeof(T));
    }
    void blob(const char* key, std::string& bytes) {
        m_out[key] = m_blobs.size();
        m_blobs.push_back(bytes);
    }

  private:
    template <class T>
    nlohmann::json written(T& value) {
        if constexpr (HasFields<T>) {
            nlohmann::json inner = nlohmann::json::object();
            FieldWriter writer(inner, m_blobs);
            value.fields(writer);
            return inner;
        } else
            return value;
    }
    template <class T>
    nlohmann::json written(std::vector<T>& list) {
        nlohmann::json out = nlohmann::json::array();
        for (T& v : list) out.push_back(written(v));
        return out;
    }
    template <class T>
    nlohmann::json written(std::optional<T>& value) {
        return value ? written(*value) : nlohmann::json(nullptr);
    }
    nlohmann::json written(Vec2& v) { return {v.x, v.y}; }
    nlohmann::json written(Vec3& v) { return {v.x, v.y, v.z}; }
    nlohmann::json written(Plane& p) {
        return {p.origin.x, p.origin.y, p.origin.z, p.across.x, p.across.y,
                p.across.z, p.up.x,     p.up.y,     p.up.z};
    }

    nlohmann::json& m_out;
    std::vector<std::string>& m_blobs;
};

/// Takes fields out of a frame. The first fault counts; after it nothing is read.
class FieldReader {
  public:
    FieldReader(const nlohmann::json& in, const std::vector<std::string>& blobs, std::string& fault)
        : m_in(in), m_blobs(blobs), m_fault(fault) {}

    template <class T>
    void operator()(const char* key, T& value) {
        if (const auto* j = find(key); j && !read(*j, value) && m_fault.empty())
            m_fault = std::string("\"") + key + "\" is not what it should be";
    }
    template <class T>
    void blob(const char* key, std::vector<T>& values) {
        const std::string* bytes = findBlob(key, sizeof(T));
        if (!bytes) return;
        values.resize(bytes->size() / sizeof(T));
        if (!bytes->empty()) std::memcpy(values.data(), bytes->data(), bytes->size());
    }
    void blob(const char* key, std::string& out) {
        if (const std::string* bytes = findBlob(key, 1)) out = *bytes;
    }

  private:
    const nlohmann::json* find(const char* key) {
        if (!m_fault.empty()) return nullptr;
        const auto it = m_in.find(key);
        if (it != m_in.end()) return &*it;
        m_fault = std::string("\"") + key + "\" is missing";
        return nullptr;
    }
    const std::string* findBlob(const char* key, std::size_t grain) {
        const auto* j = find(key);
        if (!j) return nullptr;
        if (j->is_number_unsigned() && j->get<std::size_t>() < m_blobs.size() &&
            m_blobs[j->get<std::size_t>()].size() % grain == 0)
            return &m_blobs[j->get<std::size_t>()];
        m_fault = std::string("\"") + key + "\" is no row of numbers";
        return nullptr;
    }

    template <class T>
    bool read(const nlohmann::json& j, T& out) {
        if constexpr (HasFields<T>) {
            if (!j.is_object()) return false;
            FieldReader inner(j, m_blobs, m_fault);
            out.fields(inner);
            return m_fault.empty();
        } else if constexpr (std::is_same_v<T, bool>) {
            return j.is_boolean() && (j.get_to(out), true);
        } else if constexpr (std::is_integral_v<T>) {
            if (j.is_number_unsigned()) {
                const auto v = j.get<std::uint64_t>();
                out = static_cast<T>(v);
                return v <= static_cast<std::uint64_t>(std::numeric_limits<T>::max());
            }
            if (!j.is_number_integer()) return false;
            const auto v = j.get<std::int64_t>();
            out = static_cast<T>(v);
            return std::is_signed_v<T> && v >= static_cast<std::int64_t>(std::numeric_limits<T>::min()) &&
                   v <= static_cast<std::int64_t>(std::numeric_limits<T>::max());
        } else if constexpr (std::is_floating_point_v<T>) {
            return j.is_number() && (j.get_to(out), true);
        } else if constexpr (std::is_same_v<T, std::string>) {
            return j.is_string() && (j.get_to(out), true);
        } else
            return readNumbers(j, out);
    }
    template <class T>
    bool read(const nlohmann::json& j, std::vector<T>& out) {
        if (!j.is_array()) return false;
        out.clear();
        for (const auto& item : j) {
            T v{};
            if (!read(item, v)) return false;
            out.push_back(std::move(v));
        }
        return true;
    }
    template <class T>
    bool read(const nlohmann::json& j, std::optional<T>& out) {
        out.reset();
        if (j.is_null()) return true;
        T v{};
        if (!read(j, v)) return false;
        out = std::move(v);
        return true;
    }
    bool readNumbers(const nlohmann::json& j, Vec2& v) { return row(j, {&v.x, &v.y}); }
    bool readNumbers(const nlohmann::json& j, Vec3& v) { return row(j, {&v.x, &v.y, &v.z}); }
    bool readNumbers(const nlohmann::json& j, Plane& p) {
        return row(j, {&p.origin.x, &p.origin.y, &p.origin.z, &p.across.x, &p.across.y, &p.across.z, &p.up.x,
                       &p.up.y, &p.up.z});
    }
    static bool row(const nlohmann::json& j, std::initializer_list<double*> out) {
        if (!j.is_array() || j.size() != out.size()) return false;
        std::size_t i = 0;
        for (double* v : out) {
            const auto& item = j[i++];
            if (!item.is_number()) return false;
            *v = item.get<double>();
            if (!std::isfinite(*v)) return false;
        }
        return true;
    }

    const nlohmann::json& m_in;
    const std::vector<std::string>& m_blobs;
    std::string& m_fault;
};

/// A message as a frame of its type.
template <class M>
Frame toFrame(M message) {
    Frame frame;
    frame.header = nlohmann::json::object();
    frame.header["type"] = M::kType;
    FieldWriter writer(frame.header, frame.blobs);
    message.fields(writer);
    return frame;
}

/// The message of a frame whose type is known. Error "message.bad".
template <class M>
Result<M> fromFrame(const Frame& frame) {
    M message;
    std::string fault;
    FieldReader reader(frame.header, frame.blobs, fault);
    message.fields(reader);
    if constexpr (Checked<M>)
        if (fault.empty()) fault = message.wrong();
    if (fault.empty()) return message;
    return errorOf("message.bad",
                   phrase("The worker and the window no longer understand each other: in a \"%1\", %2.",
                          std::string(M::kType), fault));
}

} // namespace gc
