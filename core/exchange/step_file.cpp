#include "core/exchange/step_file.hpp"

#include "core/base/file.hpp"
#include "core/shape/kernel.hpp"

#include <APIHeaderSection_MakeHeader.hxx>
#include <BRep_Builder.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <STEPControl_Reader.hxx>
#include <STEPControl_Writer.hxx>
#include <StepBasic_Product.hxx>
#include <StepBasic_ProductDefinition.hxx>
#include <StepRepr_RepresentationItem.hxx>
#include <StepShape_ManifoldSolidBrep.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_Compound.hxx>
#include <TransferBRep.hxx>
#include <TransferBRep_ShapeMapper.hxx>
#include <Transfer_FinderProcess.hxx>
#include <XSControl_TransferWriter.hxx>
#include <XSControl_WorkSession.hxx>

#include <algorithm>
#include <sstream>
#include <unistd.h>

namespace gc {

namespace {

Error stepError(const char* code, const std::string& sentence) {
    Error e;
    e.code = code;
    e.sentence = sentence;
    return e;
}

/// STEP strings are plain ASCII here; other letters would need their escape.
std::string ascii(const std::string& text) {
    std::string out;
    for (const char c : text)
        if (static_cast<unsigned char>(c) < 0x80 && c != '\'')
            out += c;
        else if (out.empty() || out.back() != '_')
            out += '_';
    return out;
}

} // namespace

Result<Body> readStep(const std::string& content, int stepId) {
    const auto broken = stepError(
        "step.syntax", "This is not a STEP file that can be read. It may be cut off; export it anew.");
    if (content.find("ISO-10303-21") == std::string::npos ||
        content.find("END-ISO-10303-21") == std::string::npos)
        return broken;
    return guarded("step.syntax", broken.sentence, [&]() -> Result<Body> {
        Message::DefaultMessenger()->ChangePrinters().Clear(); // the kernel's chatter is not for our streams
        STEPControl_Reader reader;
        Interface_Static::SetCVal("xstep.cascade.unit", "MM");
        std::istringstream stream(content);
        if (reader.ReadStream("part.step", stream) != IFSelect_RetDone) return broken;
        reader.TransferRoots();
        const TopoDS_Shape all = reader.OneShape();
        if (all.IsNull()) return stepError("step.empty", "The STEP file holds no shape.");
        BRep_Builder builder;
        TopoDS_Compound solids;
        builder.MakeCompound(solids);
        int count = 0;
        for (TopExp_Explorer x(all, TopAbs_SOLID); x.More(); x.Next(), ++count)
            builder.Add(solids, x.Current());
        if (count == 0)
            return stepError("step.empty", "The STEP file holds no solid body, only surfaces or curves.");
        NameBuilder names(onlySolid(solids));
        for (int i = 1; i <= names.faces().Extent(); ++i)
            names.add(names.faces()(i), internName(stepId, "face " + std::to_string(i)));
        return names.finish();
    });
}

Result<Done> writeStep(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path) {
    const auto failed = stepError("step.unwritable", "The STEP file \"" + path.string() +
                                                         "\" cannot be written. Choose another place.");
    return guarded("step.unwritable", failed.sentence, [&]() -> Result<Done> {
        Message::DefaultMessenger()->ChangePrinters().Clear();
        STEPControl_Writer writer;
        Interface_Static::SetCVal("write.step.unit", "MM");
        Interface_Static::SetCVal("write.step.product.name", ascii(partName).c_str());
        for (const NamedBody& b : bodies) {
            if (writer.Transfer(b.body.shape().shape, STEPControl_AsIs) != IFSelect_RetDone) return failed;
            const Handle(Transfer_FinderProcess) process = writer.WS()->TransferWriter()->FinderProcess();
            const Handle(TransferBRep_ShapeMapper) mapper =
                TransferBRep::ShapeMapper(process, b.body.shape().shape);
            Handle(StepRepr_RepresentationItem) item;
            if (process->FindTypedTransient(mapper, STANDARD_TYPE(StepRepr_RepresentationItem), item) &&
                !item.IsNull())
                item->SetName(new TCollection_HAsciiString(ascii(b.name).c_str()));
        }
        APIHeaderSection_MakeHeader header(writer.Model());
        header.SetName(new TCollection_HAsciiString(ascii(partName).c_str()));
        header.SetAuthorValue(1, new TCollection_HAsciiString(""));
        header.SetOriginatingSystem(new TCollection_HAsciiString("Good Curve"));
        // The kernel writes to a name only: write aside, read back, and put it in place like any other file.
        std::string aside = (std::filesystem::temp_directory_path() / "good-curve-step-XXXXXX").string();
        const int fd = ::mkstemp(aside.data());
        if (fd < 0) return failed;
        ::close(fd);
        const bool written = writer.Write(aside.c_str()) == IFSelect_RetDone;
        auto content = written ? readFile(aside) : Result<std::string>(failed);
        ::unlink(aside.c_str());
        if (!content) return failed;
        return writeFileAtomically(path, *content);
    });
}

} // namespace gc
