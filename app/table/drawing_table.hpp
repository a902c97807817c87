#pragma once
/// \file The drawing table: a drawing seen straight on, with tools to draw, relate and dimension. It carries
/// what the pointer and the keys say to the tool at hand, and has the layers and painters show what there is.

#include "app/table/clearance.hpp"
#include "app/table/drawing_model.hpp"
#include "app/table/figures.hpp"
#include "app/table/layers/plane_strip.hpp"
#include "app/table/layers/trace_layer.hpp"
#include "app/table/painters/card.hpp"
#include "app/table/painters/relation_marks.hpp"
#include "app/table/tools/tool.hpp"
#include "core/document/areas.hpp"

#include <QImage>
#include <QWidget>

namespace gc::app {

class DrawingTable : public QWidget {
    Q_OBJECT
  public:
    explicit DrawingTable(DrawingModel* model, QWidget* parent = nullptr);
    ~DrawingTable() override;

    // For the window
    /// By its key; see allTools().
    void setTool(const QString& key);
    QString tool() const;
    int way() const { return m_tool->way(); }
    /// Begins an edit of what is chosen, by its kind ("edit:offset"): asks for its sentence, or says why not.
    void askEdit(const QString& kind);
    /// The sentence in which something was repeated, to change it.
    void changeRepeat(int repeat);
    void changeText(int text);
    /// Shows what an edit would do; nothing: no more.
    void previewEdit(const std::optional<Step>& edit);
    /// Does it. \return false when it cannot be done: the message says why
    bool keepEdit(const Step& edit);
    /// The part behind, and where the table lies.
    GhostLayer& ghost() { return m_ghost; }
    void setPlane(const Plane& plane);
    const Plane& plane() const { return m_ghost.plane(); }
    /// What the drawing can follow.
    void setTraces(const std::vector<Trace>& traces);
    /// The picture that is drawn over, as it was read; a null one cannot be read.
    void setPicture(const QImage& picture);
    /// Puts another drawing beside what is there, chosen, and brings all into view. \return whether it was
    /// taken
    bool bringIn(const Drawing& other);
    /// Brings all of the drawing into view.
    void fit();

    // For the tools
    DrawingModel& model() { return *m_model; }
    const TableView& view() const { return m_view; }
    Figures& figures() { return m_figures; }
    TableField& field() { return m_field; }
    const TraceLayer& traces() const { return m_traces; }
    const RelationMarks& marks() const { return m_marks; }
    void say(const QString& text) { Q_EMIT message(text); }
    void sayWhyNot(const EditOutcome& outcome);
    void sayLost(const EditOutcome& outcome);
    void setHover(int thing) { m_hover = thing; }
    const std::vector<int>& chosen() const { return m_chosen; }
    void choose(std::vector<int> things);
    const Areas& areas() const { return m_areas; }
    /// \param more besides those that are chosen; once more lets it go
    void chooseArea(const std::vector<int>& strokes, bool more);
    void removeChosen();
    /// At what it measures now, with its figure open for typing.
    void addDimension(Relation dimension);
    /// From one thing that can be chosen to the next: strokes by their middles, and their ends.
    void walk(bool back);
    /// A button below the table; `row` counts from the lowest.
    void addButton(const QString& label, int row, std::function<void()> action, bool on = false);
    /// One that stands away from the others: it takes something away.
    void addApart(const QString& label, std::function<void()> action);
    void rebuildButtons();
    void lookAgain();

    // For tests: where something that can be clicked is; empty when it is not there.
    QPointF toScreen(Vec2 p) const { return m_view.toScreen(p); }
    QLineEdit* editor() const { return m_field.edit(); }
    QPointF pointer() const { return m_pointer; }
    QRectF chipRect(const QString& label) const;  ///< empty where it cannot be clicked
    QRectF chipPlace(const QString& label) const; ///< also of one that is pale
    QRectF cardRect(const QString& words) const;
    QRectF stripRect(const QString& words) const;
    QRectF cardRect() const { return m_card.rect(); }
    bool cardFolded() const { return m_card.isFolded(); }
    bool stripFolded() const { return m_strip.isFolded(); }
    QPointF figureAt(int relation) const { return m_figures.at(relation); }
    QPointF markOf(int relation) const { return m_marks.placeOf(relation); }

  Q_SIGNALS:
    void toolChanged(const QString& key);
    void message(const QString& text);
    void editAsked(const gc::Step& edit);
    /// A figure was clicked while an edit is asked for: by its name.
    void nameAsked(int dimension);
    /// A step of that kind is to be begun on these areas.
    void areaAsked(const QString& kind, const gc::Areas& areas);
    /// Pick the plane that the table lies in, in the stand.
    void planePickAsked();
    /// Choose a picture to draw over.
    void pictureAsked();

  protected:
    void paintEvent(QPaintEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void wheelEvent(QWheelEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;
    /// Tab walks through what is drawn, and through the ways of a tool.
    bool focusNextPrevChild(bool) override { return false; }

  private:
    void connectPieces();
    void modelChanged();
    void look(QPointF pointer, Qt::KeyboardModifiers keys);
    template <class Visit>
    void forButtons(const Visit& visit) const;
    bool onButton(QPointF at) const;
    bool escape();
    void stepPointer(int key, bool fine);
    void pointTo(Vec2 place);
    void openPlaceField(const QString& typed);
    bool keepPlace(const QString& typed);
    TableScene scene() const;
    void keepPlaces();
    void paintButtons(QPainter& p);
    void paintKeyPointer(QPainter& p) const;
    double bottomOfPaper() const;
    void layFigures();

    DrawingModel* m_model;
    TableView m_view;
    bool m_fitted = false;
    TableField m_field;
    Figures m_figures;
    GhostLayer m_ghost;
    TraceLayer m_traces;
    PlaneStrip m_strip;
    Card m_card;
    RelationMarks m_marks;
    Clearance m_underCard, m_underStrip;
    QImage m_picture;
    std::vector<std::unique_ptr<TableTool>> m_tools; ///< one of each kind, in their order
    TableTool* m_tool = nullptr;
    std::vector<TableButton> m_buttons;            ///< below the table
    std::vector<std::pair<QString, int>> m_places; ///< labels and rows in the order in which they came
    // What is chosen, and what an edit under way would make of it
    std::vector<int> m_chosen;
    Areas m_areas; ///< the strokes around each area that was clicked
    std::optional<Step> m_edit;
    std::optional<Drawing> m_preview;
    // The pointer
    QPointF m_pointer, m_pressedAt;
    int m_hover = 0;
    bool m_byKeys = false; ///< it was moved by keys
    bool m_panning = false;
    bool m_answered = false; ///< the press did it all: its release means nothing
    std::optional<TypedPlace> m_typed;
};

} // namespace gc::app
