#include "core/units/expression.hpp"

#include <algorithm>

namespace gc {

namespace {

using Names = std::map<std::string, const NamedValue*>;

Error faultOf(const NamedValue& value, const char* code, Message sentence) {
    Error e;
    e.code = code;
    e.sentence = std::move(sentence);
    e.culprits = {value.name};
    return e;
}

Result<Names> namesOf(const std::vector<NamedValue>& values) {
    Names names;
    for (const NamedValue& v : values) {
        if (!isGoodName(v.name))
            return faultOf(
                v, "values.name",
                phrase("\"%1\" cannot be a name. Use letters, digits and underscores, and no unit.", v.name));
        if (!names.emplace(v.name, &v).second)
            return faultOf(v, "values.twice",
                           phrase("Two values are called \"%1\". Rename one of them.", v.name));
    }
    return names;
}

/// A value on the way to another that needs it.
struct Open {
    const NamedValue* value;
    std::vector<std::string> needs;
    std::size_t next = 0; ///< of the needs
};

Open opened(const NamedValue& value, const Names& names) {
    Open out{&value, {}};
    for (const std::string& used : namesUsed(value.expression))
        if (names.count(used)) out.needs.push_back(used);
    return out;
}

Error circle(const std::vector<Open>& open, const std::string& again) {
    const auto start =
        std::find_if(open.begin(), open.end(), [&](const Open& o) { return o.value->name == again; });
    Error e;
    e.code = "values.circle";
    for (auto k = start; k != open.end(); ++k) e.culprits.push_back(k->value->name);
    constexpr std::size_t kNamed = 6; // more would be no sentence any more
    std::string chain;
    for (std::size_t i = 0; i < e.culprits.size() && i < kNamed; ++i) chain += e.culprits[i] + " → ";
    if (e.culprits.size() > kNamed) chain += "… → ";
    e.sentence = phrase("These values need each other in a circle: %1. Give one of them a number of its own.",
                        chain + again);
    return e;
}

/// A named value may have any dimension: the common ones are tried, the length first for bare numbers.
Result<Amount> amountOf(const NamedValue& value, const UnitSystem& units,
                        const std::map<std::string, Amount>& done) {
    const auto lookUp = [&](const std::string& name) -> std::optional<Amount> {
        const auto it = done.find(name);
        return it == done.end() ? std::nullopt : std::optional(it->second);
    };
    Result<Amount> r = Error{};
    for (const Dimension d : {kLength, kAngle, kNumber, kMass, kVolume, kArea}) {
        r = evaluate(value.expression, d, units, lookUp);
        if (r || r.error().position > 0) break;
    }
    if (r) return r;
    Error e = r.error();
    e.culprits = {value.name};
    e.sentence = phrase("Value \"%1\": %2", value.name, e.sentence);
    return e;
}

} // namespace

/// Without recursion: a chain of values may be as long as a part can hold.
Result<std::map<std::string, Amount>> evaluateValues(const std::vector<NamedValue>& values,
                                                     const UnitSystem& units) {
    const auto names = namesOf(values);
    if (!names) return names.error();
    std::map<std::string, Amount> done;
    std::set<std::string> waiting; // the names of those that are open
    std::vector<Open> open;
    for (const NamedValue& wanted : values) {
        if (done.count(wanted.name)) continue;
        open.push_back(opened(wanted, *names));
        waiting.insert(wanted.name);
        while (!open.empty()) {
            Open& top = open.back();
            if (top.next < top.needs.size()) {
                const std::string need = top.needs[top.next++];
                if (done.count(need)) continue;
                if (!waiting.insert(need).second) return circle(open, need);
                open.push_back(opened(*names->at(need), *names));
                continue;
            }
            const auto amount = amountOf(*top.value, units, done);
            if (!amount) return amount.error();
            done[top.value->name] = *amount;
            waiting.erase(top.value->name);
            open.pop_back();
        }
    }
    return done;
}

} // namespace gc
