#pragma once
/// \file Files as texts, and parts that import them.

#include "core/base/file.hpp"
#include "tests/support/probe.hpp"
#include "tests/support/temporary_folder.hpp"

#include <STEPCAFControl_Writer.hxx>
#include <TDocStd_Document.hxx>

namespace gc::test {

/// A document of shapes as a STEP file.
inline std::string stepText(const Handle(TDocStd_Document) & document) {
    STEPCAFControl_Writer writer;
    writer.Transfer(document);
    const TemporaryFolder folder;
    const auto path = folder.path() / "thing.step";
    writer.Write(path.c_str());
    return *readFile(path);
}

/// A part of one step. \param slots more of it
inline RegenResult importing(const std::string& content, const Slots& slots = {}) {
    Part p;
    p.attachments = {{"a.file", content}};
    Slots all{{"file", std::string("a.file")}};
    for (const auto& [key, value] : slots) all[key] = value;
    add(p, "import", all);
    return Engine().regenerate(p);
}

} // namespace gc::test
