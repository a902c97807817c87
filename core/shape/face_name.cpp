#include "core/shape/face_name.hpp"

#include <algorithm>
#include <memory>
#include <mutex>
#include <set>
#include <unordered_map>

namespace gc {

NamePtr internName(int step, const std::string& role, std::vector<NamePtr> parents) {
    static std::mutex mutex;
    static std::unordered_map<std::string, std::unique_ptr<FaceName>> table;
    std::sort(parents.begin(), parents.end(), [](NamePtr a, NamePtr b) { return a->text < b->text; });
    parents.erase(std::unique(parents.begin(), parents.end()), parents.end());
    std::string text = std::to_string(step) + ":" + role;
    if (!parents.empty()) {
        text += '(';
        for (const NamePtr p : parents) text += p->text + "|";
        text.back() = ')';
    }
    const std::lock_guard lock(mutex);
    auto& entry = table[text];
    if (entry) return entry.get();
    std::set<int> steps{step};
    for (const NamePtr p : parents) steps.insert(p->steps.begin(), p->steps.end());
    entry = std::make_unique<FaceName>(
        FaceName{step, role, std::move(parents), text, {steps.begin(), steps.end()}});
    return entry.get();
}

bool fits(const FaceRef& pattern, const FaceName& name) {
    const auto& p = name.parents;
    switch (pattern.kind) {
    case FaceRef::Kind::Role:
        return p.empty() && name.step == pattern.step && name.role == pattern.role;
    case FaceRef::Kind::Inside:
        return name.role == "inside of" && p.size() == 1 && fits(*pattern.a, *p[0]);
    case FaceRef::Kind::Rim:
        return name.role == "rim of" && p.size() == 1 && fits(*pattern.a, *p[0]);
    case FaceRef::Kind::Copy:
        return p.size() == 1 && name.role == "copy " + std::to_string(pattern.copy) &&
               fits(*pattern.a, *p[0]);
    case FaceRef::Kind::FilletBetween: {
        if (name.role != "fillet" || p.empty() || p.size() > 2) return false;
        const FaceName &first = *p.front(), &second = *p.back();
        return (fits(*pattern.a, first) && fits(*pattern.b, second)) ||
               (fits(*pattern.b, first) && fits(*pattern.a, second));
    }
    case FaceRef::Kind::NextTo:
        return fits(*pattern.a, name);
    }
    return false;
}

FaceRefPtr referenceTo(const FaceName& name) {
    auto ref = std::make_shared<FaceRef>();
    const auto& p = name.parents;
    if (p.empty()) {
        ref->role = name.role;
        ref->step = name.step;
        return ref;
    }
    ref->a = referenceTo(*p.front());
    if (!ref->a) return nullptr;
    if (name.role == "inside of")
        ref->kind = FaceRef::Kind::Inside;
    else if (name.role == "rim of")
        ref->kind = FaceRef::Kind::Rim;
    else if (name.role.rfind("copy ", 0) == 0) {
        ref->kind = FaceRef::Kind::Copy;
        ref->copy = std::stoi(name.role.substr(5));
    } else if (name.role == "fillet" && p.size() <= 2) {
        ref->kind = FaceRef::Kind::FilletBetween;
        ref->b = referenceTo(*p.back());
        if (!ref->b) return nullptr;
    } else
        return nullptr;
    return ref;
}

} // namespace gc
