#pragma once
/// \file The drawing of one step while it is on the table: edits, and what is known about it. No geometry is
/// computed here; core/sketch does.

#include "app/shell/session.hpp"
#include "core/document/drawing_edits.hpp"
#include "core/document/typed_place.hpp"
#include "core/sketch/region.hpp"
#include "core/sketch/solve/clash.hpp"
#include "core/sketch/solve/freedom.hpp"
#include "core/sketch/trace.hpp"

#include <QImage>
#include <QThreadPool>

#include <atomic>
#include <memory>

#include <functional>
#include <set>

namespace gc::app {

class DrawingModel : public QObject {
    Q_OBJECT
  public:
    explicit DrawingModel(Session* session, QObject* parent = nullptr);
    ~DrawingModel() override;

    /// 0: none.
    void showStep(int id);
    int step() const { return m_step; }
    /// The step whose drawing it is; nothing when there is none.
    const Step* drawnStep() const { return m_session->part().findStep(m_step); }
    /// The plane it lies in, in words; the planes that it could lie in, by name and in words.
    QString planeWords() const;
    QList<std::pair<QString, QString>> planesInReach() const;
    /// Lays it into another plane, or another way round.
    void setPlacing(const std::string& slot, const std::string& value);
    void nextPlacing(const std::string& slot, const std::vector<std::string>& choices);
    /// What strokes follow now; they move along.
    void setTraces(const std::vector<Trace>& traces);
    /// What a trace comes from, and a relation, in words.
    QString sourceWords(const std::string& source) const;
    QString sentence(const Relation& relation) const;
    /// Embeds a picture and lays it under the drawing. \return why not
    QString layPicture(const QString& path);
    /// The picture under the drawing; null when there is none or it cannot be read.
    QImage picture() const;
    Result<double> lengthFrom(const QString& text) const;
    /// The table is shown or put away; only while it is shown is anything worked out.
    void watch(bool on);
    const Drawing& drawing() const { return m_drawing; }
    const DimensionValues& sizes() const { return m_sizes; }
    const UnitSystem& units() const { return m_session->part().brief.units; }

    /// Changes the drawing, settles it and commits it as one edit. What clashes stays, and is told.
    /// \return whether it was taken: what a part cannot hold is refused, told, and the drawing is as it was
    bool edit(const QString& what, const std::function<void(Drawing&)>& change);
    /// A new sentence for an edit of what is chosen; why it makes none is told instead when it does not.
    Step newEdit(const QString& kind, const std::vector<int>& chosen, QString& whyNot) const;
    /// What an edit would make of the drawing as it lies.
    EditOutcome tryEdit(const Step& edit, const std::vector<int>& chosen, Drawing& drawing) const;
    Result<TypedPlace> placeFrom(const QString& text, std::optional<Vec2> from, Vec2 pointer) const;
    /// Sets a dimension as typed. The first real size of a drawing scales all of it. \return why not
    QString setSize(int relation, const QString& text);
    /// How a dimension stands on the paper, and what is typed there: its figure, of a pitch with how many.
    QString shownFigure(const Relation& dimension) const;
    QString typedFigure(const Relation& dimension) const;
    /// Measures it from the centres instead of over all, or the other way round: see takenOtherwise.
    void takeOtherwise(Relation other);
    /// A name by which others may call a dimension; gives it one when it has none.
    QString nameOfDimension(int relation);
    /// It only measures, or drives again.
    void setReadOnly(int relation, bool on);
    /// The part's values and the drawing's named dimensions with what they are now: "wall = 2 mm".
    QStringList namesInReach(int butNot) const;
    /// The same with their amounts, for figures that are worked out.
    Values names() const;
    /// Takes the scaling of the first size back, keeping the size.
    void keepOldScale();
    bool justScaled() const { return m_scaledBy > 0; }
    double scaledBy() const { return m_scaledBy; }

    void beginDrag(const std::vector<int>& points);
    void beginDragSize(int stroke);
    void dragTo(Vec2 by);
    void dragSizeTo(double radius);
    void endDrag(const QString& what);
    bool dragging() const { return m_settler != nullptr; }

    /// A large drawing is looked at beside the window: what is known is of before, or not there yet.
    bool learning() const { return m_learning; }
    const Freedoms& freedoms() const { return m_freedoms; }
    const Diagnosis& diagnosis() const { return m_diagnosis; }
    const Closedness& closedness() const { return m_closedness; }
    /// Why the sizes cannot be worked out; empty when they can.
    QString sizeProblem() const { return m_sizeProblem; }
    /// The size of a dimension as shown: with its unit.
    QString figure(const Relation& dimension) const;
    bool clashes(int relation) const { return m_clashing.count(relation) > 0; }

  Q_SIGNALS:
    void changed();
    void message(const QString& text);

  private:
    void refresh();
    void takeFromPart();
    /// What is known about a drawing as it lies.
    struct Known {
        Freedoms freedoms;
        Diagnosis diagnosis;
        Closedness closedness;
    };
    static Known lookAt(const Drawing& drawing, const DimensionValues& sizes, const UnitSystem& units,
                        bool sound, const std::function<bool()>& stop);
    void learn();
    void know(Known known);
    void showMoved();
    bool commit(const QString& what);
    QString repeatAnew(const Step& edit, int relation, const std::string& name);
    std::vector<Trace> m_traces;
    std::optional<DimensionValues> sizesOf(const Drawing& drawing);

    Session* m_session;
    int m_step = 0;
    Drawing m_drawing;
    DimensionValues m_sizes;
    QString m_sizeProblem;
    Freedoms m_freedoms;
    Diagnosis m_diagnosis;
    Closedness m_closedness;
    std::set<int> m_clashing;
    std::unique_ptr<Settler> m_settler;
    std::optional<Drawing> m_beforeTraces; ///< as it lay before what it follows moved, until it is settled
    double m_scaledBy = 0;
    int m_scaledTo = 0;   ///< the dimension whose typed size did it
    QThreadPool m_beside; ///< one thread that looks at large drawings
    std::shared_ptr<std::atomic<int>> m_asked =
        std::make_shared<std::atomic<int>>(0); ///< what it looks at is stale when this moved on
    bool m_learning = false;
    bool m_committing = false, m_watched = false, m_stale = false;
};

} // namespace gc::app
