// Bodies out of STEP files: solids, assemblies, names, colours, units.

#include "core/exchange/healing.hpp"
#include "core/exchange/place_names.hpp"
#include "core/exchange/step_file.hpp"

#include <BRep_Builder.hxx>
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
#include <TopoDS_Compound.hxx>
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
    if (out.starts_with("Open CASCADE STEP translator")) return {}; // what the kernel calls what has no name
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
        TopoDS_Shape shape; ///< a solid, or a surface
        std::string name, colour;
    };
    std::vector<Found> all() {
        TDF_LabelSequence free;
        m_shapes->GetFreeShapes(free);
        for (const TDF_Label& label : free) add(label, {TopLoc_Location(), {}, {}}, 0);
        joinSurfaces();
        return std::move(m_found);
    }

  private:
    struct At {
        TopLoc_Location where;
        std::string within; ///< the assemblies around it, without the whole
        std::string colour; ///< what its place was given
    };

    void add(const TDF_Label& label, const At& at, int depth) {
        constexpr int kDeepest = 40; // a file that contains itself
        if (depth > kDeepest) return;
        const std::string own = nameIn(label);
        if (m_shapes->IsAssembly(label)) {
            TDF_LabelSequence parts;
            XCAFDoc_ShapeTool::GetComponents(label, parts);
            const std::string path = depth == 0 ? std::string() : joined(at.within, own);
            for (const TDF_Label& part : parts) add(part, {at.where, path, at.colour}, depth + 1);
            return;
        }
        TDF_Label original;
        if (XCAFDoc_ShapeTool::GetReferredShape(label, original)) {
            // The part's own name says what it is; the place's name is often a number.
            if (nameIn(original).empty()) m_called = own;
            const std::string here = colourOf(label, XCAFDoc_ShapeTool::GetShape(label));
            add(original,
                {at.where * XCAFDoc_ShapeTool::GetLocation(label), at.within,
                 here.empty() ? at.colour : here},
                depth + 1);
            m_called.clear();
            return;
        }
        const std::string name = joined(at.within, own.empty() ? m_called : own);
        const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(label);
        const auto take = [&](const TopoDS_Shape& one) {
            const std::string colour = colourOf(label, one);
            m_found.push_back({one.Moved(at.where), name, colour.empty() ? at.colour : colour});
        };
        for (TopExp_Explorer x(shape, TopAbs_SOLID); x.More(); x.Next()) take(x.Current());
        for (const TopoDS_Shape& surface : surfacesIn(shape)) take(surface);
    }

    /// Many files list the faces of one surface as things of their own: what meets is one.
    void joinSurfaces() {
        TopoDS_Compound all;
        BRep_Builder builder;
        builder.MakeCompound(all);
        std::size_t before = 0;
        const Found* first = nullptr;
        for (const Found& f : m_found)
            if (f.shape.ShapeType() != TopAbs_SOLID) {
                builder.Add(all, f.shape);
                if (++before == 1) first = &f;
            }
        if (before < 2) return;
        const auto together = surfacesIn(all);
        if (together.size() >= before || together.empty()) return; // they do not meet
        const std::string colour = first->colour;
        std::erase_if(m_found, [](const Found& f) { return f.shape.ShapeType() != TopAbs_SOLID; });
        for (const TopoDS_Shape& s : together) m_found.push_back({s, {}, colour});
    }

    static std::string joined(const std::string& within, const std::string& name) {
        return within.empty() ? name : name.empty() ? within : within + " / " + name;
    }

    std::string colourOf(const TDF_Label& label, const TopoDS_Shape& shape) const {
        Quantity_Color c;
        for (const XCAFDoc_ColorType type : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen})
            if (m_colours->GetColor(shape, type, c) || m_colours->GetColor(label, type, c)) {
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
    std::string m_called; ///< what the place is called that a nameless part is put to
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
            return errorOf("step.empty",
                           "The STEP file holds no body and no surface, only points or curves.");
        std::vector<NamedBody> out;
        for (const Collector::Found& f : found) {
            const Healed h = healed(f.shape);
            NameBuilder names(h.shape);
            names.frame(stepId, Plane{{}, {1, 0, 0}, {0, 1, 0}});
            nameByPlace(names, stepId);
            auto body = names.finish();
            if (!body) return body.error();
            out.push_back({f.name, *body, f.colour, h.notes});
        }
        return out;
    });
}

} // namespace gc
