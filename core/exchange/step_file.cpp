#include "core/exchange/step_file.hpp"

#include "core/base/file.hpp"
#include "core/shape/kernel.hpp"

#include <APIHeaderSection_MakeHeader.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <STEPControl_Writer.hxx>
#include <StepBasic_Product.hxx>
#include <StepBasic_ProductDefinition.hxx>
#include <StepRepr_RepresentationItem.hxx>
#include <StepShape_ManifoldSolidBrep.hxx>
#include <TCollection_ExtendedString.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TransferBRep.hxx>
#include <TransferBRep_ShapeMapper.hxx>
#include <Transfer_FinderProcess.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <XSControl_TransferWriter.hxx>
#include <XSControl_WorkSession.hxx>

#include <cstdio>
#include <unistd.h>

namespace gc {

namespace {

Error stepError(const char* code, const std::string& sentence) {
    Error e;
    e.code = code;
    e.sentence = sentence;
    return e;
}

/// A text as STEP has it: letters beyond ASCII in the escape of ISO 10303-21, 6.4.3.3. Quotes are doubled by
/// the kernel.
std::string stepText(const std::string& text) {
    std::string out;
    const TCollection_ExtendedString wide(text.c_str(), true);
    for (int i = 1; i <= wide.Length(); ++i) {
        const auto unit = static_cast<unsigned>(wide.Value(i));
        if (unit < 0x20) continue; // line ends and the like
        if (unit == '\\') {
            out += "\\\\";
        } else if (unit < 0x7f) {
            out += static_cast<char>(unit);
        } else {
            char escape[20];
            std::snprintf(escape, sizeof escape, "\\X2\\%04X\\X0\\", unit);
            out += escape;
        }
    }
    return out;
}

/// Each body as a shape of its own with its name and its colour.
Handle(TDocStd_Document) documentOf(const std::vector<NamedBody>& bodies) {
    Handle(TDocStd_Document) document = new TDocStd_Document("XmlXCAF");
    const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
    const Handle(XCAFDoc_ColorTool) colours = XCAFDoc_DocumentTool::ColorTool(document->Main());
    for (const NamedBody& b : bodies) {
        const TDF_Label label = shapes->AddShape(b.body.shape().shape, false);
        TDataStd_Name::Set(label, stepText(b.name).c_str());
        Quantity_Color colour;
        if (!b.colour.empty() && Quantity_Color::ColorFromHex(b.colour.c_str(), colour))
            colours->SetColor(label, colour, XCAFDoc_ColorSurf);
    }
    return document;
}

/// Where a toolmaker's program shows it: the solid itself is called like the body.
void nameSolids(const std::vector<NamedBody>& bodies, const Handle(Transfer_FinderProcess) & process) {
    for (const NamedBody& b : bodies)
        for (TopExp_Explorer x(b.body.shape().shape, TopAbs_SOLID); x.More(); x.Next()) {
            Handle(StepRepr_RepresentationItem) item;
            if (process->FindTypedTransient(TransferBRep::ShapeMapper(process, x.Current()),
                                            STANDARD_TYPE(StepRepr_RepresentationItem), item) &&
                !item.IsNull())
                item->SetName(new TCollection_HAsciiString(stepText(b.name).c_str()));
        }
}

} // namespace

Result<Done> writeStep(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path) {
    const auto failed = stepError("step.unwritable", "The STEP file \"" + path.string() +
                                                         "\" cannot be written. Choose another place.");
    return guarded("step.unwritable", failed.sentence, [&]() -> Result<Done> {
        ::Message::DefaultMessenger()->ChangePrinters().Clear();
        STEPCAFControl_Writer coloured;
        Interface_Static::SetCVal("write.step.unit", "MM");
        if (!coloured.Transfer(documentOf(bodies), STEPControl_AsIs)) return failed;
        STEPControl_Writer& writer = coloured.ChangeWriter();
        nameSolids(bodies, writer.WS()->TransferWriter()->FinderProcess());
        APIHeaderSection_MakeHeader header(writer.Model());
        header.SetName(new TCollection_HAsciiString(stepText(partName).c_str()));
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
