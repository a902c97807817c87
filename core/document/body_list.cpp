#include "core/document/body_list.hpp"

#include <algorithm>
#include <string_view>

namespace gc {

namespace {
constexpr std::string_view kBar = " | ";
}

std::vector<std::string> namesInList(const std::string& text) {
    std::vector<std::string> out;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find(kBar, at), text.size());
        if (end > at) out.push_back(text.substr(at, end - at));
        at = end + kBar.size();
    }
    return out;
}

std::string nameList(const std::vector<std::string>& names) {
    std::string out;
    for (const std::string& name : names) out.append(out.empty() ? "" : kBar).append(name);
    return out;
}

std::string withName(const std::string& list, const std::string& name) {
    std::vector<std::string> names = namesInList(list);
    if (std::erase(names, name) == 0) names.push_back(name);
    return nameList(names);
}

std::string renamedIn(const std::string& list, const std::string& from, const std::string& to) {
    std::vector<std::string> names = namesInList(list);
    std::replace(names.begin(), names.end(), from, to);
    return nameList(names);
}

} // namespace gc
