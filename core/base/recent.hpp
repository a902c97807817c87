#pragma once
/// \file What was worked out lately, by what it was worked out from: a picture asks for the same again and
/// again.

#include <algorithm>
#include <list>
#include <utility>

namespace gc {

template <class Key, class Value>
class Recent {
  public:
    explicit Recent(std::size_t most) : m_most(most) {}
    /// Valid until the next call.
    template <class Make>
    const Value& get(const Key& key, const Make& make) {
        const auto it =
            std::find_if(m_known.begin(), m_known.end(), [&](const auto& k) { return k.first == key; });
        if (it != m_known.end()) {
            m_known.splice(m_known.begin(), m_known, it);
        } else {
            m_known.emplace_front(key, make());
            if (m_known.size() > m_most) m_known.pop_back();
        }
        return m_known.front().second;
    }

  private:
    std::size_t m_most;
    std::list<std::pair<Key, Value>> m_known; ///< the latest first
};

} // namespace gc
