// Bodies out of STEP files: solids, assemblies, names, colours, units.

#include "core/exchange/place_names.hpp"
#include "core/exchange/step_file.hpp"

#include <Interface_InterfaceModel.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <XSControl_WorkSession.hxx>

#include <algorithm>
#include <sstream>

namespace gc {

namespace {

/// A text of the file without what a name cannot have.
std::string nameIn(const TDF_Label& label) {
    Handle(TDataStd_Name) name;
    if (!label.FindAttribute(TDataStd_Name::GetID(), name)) return {};
    const TCollection_ExtendedString& wide = name->Get();
    std::string out(static_cast<std::size_t>(wide.LengthOfCString()) + 1, '\0');
    Standard_PCharacter begin = out.data();
    out.resize(static_cast<std::size_t>(wide.ToUTF8CString(begin)));
    for (char& c : out)
        if (static_cast<unsigned char>(c) < 0x20 || c == '|') c = ' ';
    const auto first = out.find_first_not_of(' '), last = out.find_last_not_of(' ');
    return first == std::string::npos ? std::string() : out.substr(first, last - first + 1);
}

/// Geometry that could not be read whole: the kernel follows what is missing in it and falls.
bool hasBrokenShapes(const Handle(Interface_InterfaceModel) & model) {
    for (int i = 1; !model.IsNull() && i <= model->NbEntities(); ++i) {
        if (!model->IsErrorEntity(i)) continue;
        const std::string type = model->Value(i)->DynamicType()->Name();
        if (type.starts_with("StepGeom_") || type.starts_with("StepShape_")) return true;
    }
    return false;
}

class Collector {
  public:
    explicit Collector(const Handle(TDocStd_Document) & document)
        : m_shapes(XCAFDoc_DocumentTool::ShapeTool(document->Main())),
          m_colours(XCAFDoc_DocumentTool::ColorTool(document->Main())) {}

    struct Found {
        TopoDS_Shape solid;
        std::string name, colour;
    };
    std::vector<Found> all() {
        TDF_LabelSequence free;
        m_shapes->GetFreeShapes(free);
        for (const TDF_Label& label : free) add(label, TopLoc_Location(), {}, 0);
        return std::move(m_found);
    }

  private:
    /// \param called what the assembly calls the part that it puts here
    void add(const TDF_Label& label, const TopLoc_Location& where, const std::string& called, int depth) {
        constexpr int kDeepest = 40; // a file that contains itself
        if (depth > kDeepest) return;
        if (m_shapes->IsAssembly(label)) {
            TDF_LabelSequence parts;
            XCAFDoc_ShapeTool::GetComponents(label, parts);
            for (const TDF_Label& part : parts) add(part, where, {}, depth + 1);
            return;
        }
        TDF_Label original;
        if (XCAFDoc_ShapeTool::GetReferredShape(label, original)) {
            // The part's own name says what it is; the place's name is often a number.
            const std::string own = nameIn(original);
            add(original, where * XCAFDoc_ShapeTool::GetLocation(label), own.empty() ? nameIn(label) : own,
                depth + 1);
            return;
        }
        const std::string name = called.empty() ? nameIn(label) : called;
        const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(label);
        for (TopExp_Explorer x(shape, TopAbs_SOLID); x.More(); x.Next())
            m_found.push_back({x.Current().Moved(where), name, colourOf(label, x.Current())});
    }

    std::string colourOf(const TDF_Label& label, const TopoDS_Shape& solid) const {
        Quantity_Color c;
        for (const XCAFDoc_ColorType type : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen})
            if (m_colours->GetColor(solid, type, c) || m_colours->GetColor(label, type, c)) {
                const TCollection_AsciiString hex = Quantity_Color::ColorToHex(c);
                std::string out(hex.ToCString());
                std::transform(out.begin(), out.end(), out.begin(),
                               [](unsigned char l) { return static_cast<char>(std::tolower(l)); });
                return out;
            }
        return {};
    }

    Handle(XCAFDoc_ShapeTool) m_shapes;
    Handle(XCAFDoc_ColorTool) m_colours;
    std::vector<Found> m_found;
};

} // namespace

Result<std::vector<NamedBody>> readStep(const std::string& content, int stepId) {
    const Error broken = errorOf(
        "step.syntax", "This is not a STEP file that can be read. It may be cut off; export it anew.");
    if (content.find("ISO-10303-21") == std::string::npos ||
        content.find("END-ISO-10303-21") == std::string::npos)
        return broken;
    return guarded("step.syntax", broken.sentence.text(), [&]() -> Result<std::vector<NamedBody>> {
        // The kernel's chatter is not for our streams.
        ::Message::DefaultMessenger()->ChangePrinters().Clear();
        STEPCAFControl_Reader reader;
        reader.SetNameMode(true);
        reader.SetColorMode(true);
        Interface_Static::SetCVal("xstep.cascade.unit", "MM");
        std::istringstream stream(content);
        if (reader.ChangeReader().ReadStream("part.step", stream) != IFSelect_RetDone) return broken;
        if (hasBrokenShapes(reader.ChangeReader().WS()->Model())) return broken;
        Handle(TDocStd_Document) document = new TDocStd_Document("XmlXCAF");
        if (!reader.Transfer(document)) return errorOf("step.empty", "The STEP file holds no shape.");
        const auto found = Collector(document).all();
        if (found.empty())
            return errorOf("step.empty", "The STEP file holds no solid body, only surfaces or curves.");
        std::vector<NamedBody> out;
        for (const Collector::Found& f : found) {
            NameBuilder names(f.solid);
            names.frame(stepId, Plane{{}, {1, 0, 0}, {0, 1, 0}});
            nameByPlace(names, stepId);
            auto body = names.finish();
            if (!body) return body.error();
            out.push_back({f.name, *body, f.colour});
        }
        return out;
    });
}

} // namespace gc
