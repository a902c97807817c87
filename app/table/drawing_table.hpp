#pragma once
/// \file The drawing table: a drawing seen straight on, with tools to draw, relate and dimension.

#include "app/stand/camera.hpp"
#include "app/table/drawing_model.hpp"
#include "core/base/plane.hpp"
#include "core/sketch/edit/draw_by_clicks.hpp"
#include "core/sketch/offer.hpp"
#include "core/sketch/size_figure.hpp"

#include <QImage>
#include <QLineEdit>
#include <QMap>
#include <QPolygonF>
#include <QTimer>
#include <QVector4D>
#include <QWidget>

class QPainter;
class QPainterPath;

namespace gc::app {

enum class Tool {
    Choose,
    Line,
    Arc,
    Circle,
    Ellipse,
    Rectangle,
    Polygon,
    Slot,
    Conic,
    Spline,
    Point,
    Follow,
    Picture,
    Dimension,
    Trim,
    Extend,
    Split,
};

struct ToolWords {
    Tool tool;
    QString key, label, tip, group;
};
const QList<ToolWords>& allTools();
/// The ways in which a tool can be used, as on the buttons below the table; empty when there is only one.
QStringList waysOf(Tool tool);

class DrawingTable : public QWidget {
    Q_OBJECT
  public:
    explicit DrawingTable(DrawingModel* model, QWidget* parent = nullptr);

    void setTool(Tool tool);
    /// One of waysOf(tool()).
    void setWay(int way);
    int way() const { return m_ways.value(m_tool); }
    /// Begins an edit of what is chosen, by its kind ("edit:offset"): asks for its sentence, or says why not.
    void askEdit(const QString& kind);
    /// Shows what an edit would do; nothing: no more.
    void previewEdit(const std::optional<Step>& edit);
    /// Does it. \return false when it cannot be done: the message says why
    bool keepEdit(const Step& edit);
    const std::vector<int>& chosen() const { return m_chosen; }
    /// Draws the part from anywhere, on nothing; cut: what lies before the plane is left out.
    std::function<QImage(const Camera&, QSize, std::optional<QVector4D> cut)> ghost;
    /// The corners of the box around the part: an empty table shows all of it.
    std::function<std::vector<QVector3D>()> corners;
    /// Where the table lies in space.
    void setPlane(const Plane& plane);
    const Plane& plane() const { return m_plane; }
    /// The part is another, or lies otherwise: it is drawn anew.
    void ghostStale();
    bool ghostSeen() const { return m_showGhost && !m_ghost.picture.isNull(); }
    /// What the drawing can follow.
    void setTraces(const std::vector<Trace>& traces);
    std::size_t traces() const { return m_traces.size(); }
    /// The picture that is drawn over, as it was read; a null one cannot be read.
    void setPicture(const QImage& picture);
    /// Puts another drawing beside what is there, chosen, and brings all into view.
    void bringIn(const Drawing& other);
    Tool tool() const { return m_tool; }
    /// Brings all of the drawing into view.
    void fit();
    QPointF toScreen(Vec2 p) const;
    Vec2 toDrawing(QPointF p) const;
    QLineEdit* editor() const { return m_editor; }
    /// For tests: where something that can be clicked is; empty when it is not there.
    QRectF chipRect(const QString& label) const;
    QRectF cardRect(const QString& words) const;
    QPointF figureAt(int relation) const;
    QPointF markOf(int relation) const;
    QRectF stripRect(const QString& words) const;

  Q_SIGNALS:
    void toolChanged(Tool tool);
    void message(const QString& text);
    void editAsked(const gc::Step& edit);
    /// Revolve the area within these strokes.
    /// A step of that kind is to be begun on the area within these strokes.
    void areaAsked(const QString& kind, const std::vector<int>& strokes);
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
    bool eventFilter(QObject* o, QEvent* e) override;
    /// Tab walks through what is drawn, and through the ways of a tool.
    bool focusNextPrevChild(bool) override { return false; }

  private:
    /// Something painted that answers a click.
    struct Button {
        QRectF rect;
        QString label;
        std::function<void()> action;
        std::function<void()> hovered; ///< may be empty
        int row = 0;
        bool on = false; ///< it is what holds now
    };

    /// A line of the card.
    struct CardLine {
        QString text;
        enum Role { Heading, Plain, Offer, Good, Bad } role = Plain;
        std::function<void()> action = {}, hovered = {};
    };

    /// What of the part can be followed, with its curves; none for a point.
    struct SeenTrace {
        Trace trace;
        std::vector<Curve2> curves;
    };
    /// The part as it was drawn last, and how the view lay then.
    struct Ghost {
        QImage picture;
        double scale = 0;
        QPointF zero;
        QSize view; ///< of the table then
    };

    double reach() const { return 9 / m_scale; }
    /// A square of the paper: 1, 2 or 5 of something, mm.
    double gridStep() const;
    void look(QPointF pointer, Qt::KeyboardModifiers keys);
    // Tools
    void click(QPointF pointer);
    void clickLine();
    void clickDrawn();
    void clickCut();
    void sayLost(const EditOutcome& outcome);
    void finishDrawn();
    /// What the tool at hand draws, in the way that is chosen.
    Clicked clicked() const;
    void landOnRim(Drawing& d, int circle, const Offer& offer, const QString& typed) const;
    static QString verbOf(Tool tool);
    void turnWay();
    // Where the table lies, and the part behind it
    void rebuildStrip();
    static QString capitalisedWords(const std::string& words);
    void openPlaneMenu();
    void paintStrip(QPainter& p);
    void refreshGhost();
    void paintGhost(QPainter& p);
    const SeenTrace* traceUnder(QPointF pointer) const;
    void paintTraces(QPainter& p) const;
    void paintTraceWords(QPainter& p) const;
    void clickFollow();
    void meetingChip();
    // The picture that is drawn over
    void paintPicture(QPainter& p) const;
    void paintPictureDraft(QPainter& p) const;
    void clickPicture(QPointF pointer);
    void closeScaleEditor(bool keep);
    void pictureChips();
    /// Calls something for every button that can be clicked.
    template <class Visit>
    void forButtons(const Visit& visit) const {
        for (const auto* list : {&m_cards, &m_chips, &m_strip})
            for (const Button& b : *list) visit(b);
    }
    bool onButton(QPointF at) const;
    void closeAnyEditor(bool keep);
    // Keyboard
    void stepPointer(int key, bool fine);
    void walk(bool back);
    void openPlaceEditor(const QString& typed);
    void closePlaceEditor(bool keep);
    bool toolKey(QKeyEvent* e);
    std::optional<Vec2> lastPlace() const;
    // Box and lasso
    void endBox(bool more);
    void chooseArea(Vec2 place);
    std::vector<int> groupOf(int stroke) const;
    std::set<int> groupedStrokes() const;
    void clickDimension(QPointF pointer);
    void addWidth(int stroke, Vec2 place);
    void clickChoose(QPointF pointer, bool more);
    void endChain();
    int landed(Drawing& d, int newPoint, int newLine, const Offer& offer) const;
    void openEditor(int relation);
    void closeEditor(bool keep);
    void nextEditor();
    QString openedText() const;
    void insertName(const QString& name);
    int figureUnder(QPointF at) const;
    static QFont figureFont();
    QString figureText(const Relation& r) const;
    QRectF figureBox(const Relation& r) const;
    void layFigures();
    void addNames(std::vector<CardLine>& lines);
    void figureChips();
    void addDimension(Relation dimension);
    void applyRelation(RelationKind kind, const std::vector<int>& of);
    void removeChosen();
    void choiceChanged();
    void relationChips();
    void editChips();
    void handleChip();
    void toolChips();
    /// A button below the table; `row` counts from the lowest.
    void chip(const QString& label, int row, std::function<void()> action, bool on = false);
    // Painting
    DimensionShape shapeOf(const Relation& r) const;
    void paintGrid(QPainter& p) const;
    void paintRegions(QPainter& p) const;
    void paintStroke(QPainter& p, const Stroke& s) const;
    void paintNodes(QPainter& p) const;
    void paintRelationMarks(QPainter& p);
    int markAt(QPointF at) const;
    void paintDimensions(QPainter& p) const;
    void paintDraft(QPainter& p) const;
    void paintLineDraft(QPainter& p, Vec2 to) const;
    void paintOffer(QPainter& p) const;
    void paintHandles(QPainter& p) const;
    void paintCut(QPainter& p) const;
    void paintPreview(QPainter& p) const;
    void paintBox(QPainter& p) const;
    void paintTroubles(QPainter& p) const;
    void paintChips(QPainter& p);
    std::vector<CardLine> cardLines();
    void addClashes(std::vector<CardLine>& lines);
    void addLoose(std::vector<CardLine>& lines);
    void addClosedness(std::vector<CardLine>& lines);
    void paintCard(QPainter& p);
    double cardWidth() const;
    QPainterPath pathOf(const Stroke& s) const;
    QPainterPath pathThrough(const std::vector<Curve2>& curves, double deviation) const;
    void rebuildChips();

    DrawingModel* m_model;
    Tool m_tool = Tool::Choose;
    double m_scale = 5;
    QPointF m_zero{200, 400};
    bool m_fitted = false;
    QPointF m_pointer;
    Offer m_offer;
    // The draft of the tool at hand
    std::vector<Offer> m_draft;
    int m_lastStroke = 0; ///< of the chain
    int m_chainEnd = 0;   ///< point id where the chain goes on
    int m_chainStart = 0;
    bool m_arcNext = false; ///< the next piece of the chain is a tangent arc
    std::vector<int> m_chosen;
    int m_hover = 0;
    std::vector<int> m_measuring; ///< what the dimension tool has picked
    QMap<Tool, int> m_ways;
    int m_sides = 6;         ///< of a polygon
    std::vector<int> m_area; ///< the strokes around the area that was clicked; empty: none
    std::optional<Step> m_edit;
    std::optional<Drawing> m_preview;                                       ///< with the edit done
    bool m_byKeys = false;                                                  ///< the pointer was moved by keys
    enum class Typing { Nothing, Place, Scale } m_typing = Typing::Nothing; ///< besides figures
    QString m_typedLength; ///< the length that the next place was typed with
    QPolygonF m_loop;      ///< of a box or a lasso, on the screen
    bool m_lasso = false;
    // Mouse
    bool m_panning = false, m_mayDrag = false;
    bool m_answered = false; ///< the press did it all: its release means nothing
    QPointF m_pressedAt;
    int m_labelDragged = 0;
    std::optional<Vec2> m_labelAt;
    int m_sizeDragged = 0;
    // In place
    QLineEdit* m_editor;
    int m_editing = 0;
    std::pair<int, int> m_marked; ///< where, and how much, in the open figure
    std::vector<Button> m_chips, m_cards, m_strip;
    QRectF m_card;                  ///< where the card lies; empty when there is nothing to say
    std::map<int, double> m_awayOf; ///< how far out figures stand that nobody put somewhere, pixels
    Plane m_plane;
    bool m_showGhost = true, m_cutGhost = false, m_hasPart = false;
    Ghost m_ghost;
    QTimer m_ghostSoon;
    std::vector<SeenTrace> m_traces;
    QImage m_picture;
    std::vector<Vec2> m_pictureClicks;
    std::vector<std::pair<QPointF, int>> m_marks; ///< where the signs of relations stand
    const FreeMotion* m_shown = nullptr;          ///< the motion that the pointer asks for
    QTimer m_swing;
    double m_phase = 0;
};

} // namespace gc::app
