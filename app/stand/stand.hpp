#pragma once
/// \file The stand: the part in the round, lit, with its shadow, a scale bar and a companion.

#include "app/stand/handles.hpp"
#include "app/stand/renderer.hpp"
#include "app/stand/threads.hpp"

#include <QOpenGLWidget>
#include <QTimer>
#include <QVariantAnimation>

#include <functional>
#include <optional>

class QLineEdit;

namespace gc::app {

class ForgeLink;

/// A size that is dragged, and what its end was put to.
/// An end of a thread has been pulled: what its slots are to say.
struct ThreadPull {
    QString slot, says, choice, chosen;
    bool done = false;
};

struct HandleDrag {
    QString slot;
    double value = 0; ///< mm or rad
    bool done = false;
    QStringList faceRefs, pointRefs; ///< best first; none: it ends nowhere but at its size
};

class Stand : public QOpenGLWidget {
    Q_OBJECT
  public:
    explicit Stand(ForgeLink* forge, QWidget* parent = nullptr);

    /// How references are put when they are shown.
    std::function<QString(const QString&)> inWords = [](const QString& r) { return r; };

    /// Where the legend may begin, below the buttons if they are in its way, px.
    void setOverlayTop(int y) { m_overlayTop = y; }
    /// How far from the left the scale may reach, px.
    void setScaleRoom(int px) { m_scaleRoom = px; }
    void setOverlay(Overlay overlay, const TargetView* target = nullptr);
    Overlay overlay() const { return m_options.overlay; }
    /// Is there an imported body that others are compared with?
    bool canCompare() const;
    /// How each body looks, and which are hidden.
    void setStyles(const std::map<ThingId, BodyStyle>& styles);
    void setCut(bool on);
    bool cut() const { return m_options.cut; }
    /// What clicks may pick.
    void setPicking(Picking picking);
    Picking picking() const { return m_picking; }
    /// Whether a body can be taken now, be it by the list of bodies, which lies beside the stand.
    bool takesBodies() const { return m_picking == Picking::Bodies || m_picking == Picking::Anything; }
    void takeBody(const QString& name);
    /// Arrows go from item to item that can be picked, Space picks. \return whether the key meant that
    bool pickByKey(int key);
    /// For tests: where the keys are; null: nowhere.
    QPoint keyPlace() const { return m_keyAt; }
    /// Shows drawings and the planes that steps made.
    void showGuides(bool on);
    /// A plane that is shown wherever guides are not; empty: none.
    void showPlane(const QString& name) {
        m_plane = name;
        update();
    }
    /// The sizes that can be dragged or typed here.
    void setHandles(std::vector<HandleView> handles);
    void setThreads(std::vector<ThreadView> threads);
    /// Is there one whose end may be put to a corner?
    bool handlesReach() const { return m_handles.reaches(); }
    /// Clicks for a slot of several add to it, and a box (Ctrl and drag) takes all that is within.
    void setSeveral(bool several) { m_several = several; }
    /// The next of what lies behind one another under the pointer. \return whether the key meant that
    bool nextUnder();
    /// How an area of a step's drawing is put.
    std::function<QString(int, const QString&)> areaWords = [](int, const QString& a) { return a; };
    /// The areas that are chosen, of a step's drawing.
    void setAreas(int step, const QStringList& areas);
    /// For tests: where a handle's end and its figure are, and where a plane's name stands.
    QPointF handleTip(const QString& slot) const;
    QRectF handleFigure(const QString& slot) const;
    QPointF threadGrip(int thread, bool end) const;
    const std::vector<ThreadView>& threads() const { return m_threads.all(); }
    QPointF planeLabel(const QString& name) const;
    /// The corners of the box around the part; none when there is none.
    std::vector<QVector3D> corners() const;
    /// A picture of the part alone on nothing, from anywhere; cut: what lies before the plane is left out.
    QImage ghost(const Camera& camera, QSize size, std::optional<QVector4D> cut);
    /// Shows these references as chosen.
    void setChosen(const QStringList& refs);
    void clearHover();
    /// A reading between two places, or at one; nothing: none.
    void showReading(const std::optional<ReadingView>& reading) {
        m_measured = reading;
        update();
    }
    /// Marks where a step is wrong, or where what it refers to was. \param gone it is not there any more
    void showPlace(const std::optional<QVector3D>& place, bool gone) {
        m_lost = place;
        m_gone = gone;
        update();
    }
    /// Another part: nothing of the last one is seen any more, and the new one is fitted when it comes.
    void beginPart();
    void flyTo(const QVector3D& point);
    void lookFrom(int sight); ///< 1 to 7
    void fit();
    const Camera& camera() const { return m_camera; }
    QPointF screenOf(const QVector3D& p) const { return m_camera.project(p, size()); }
    QPointF cutHandle() const;
    QRectF companionLabel() const { return m_companionLabel; }
    /// Legends need so much at the right, px.
    static constexpr int kLegendWidth = 290;
    /// What the legend says where there is nothing to colour by; empty when there is.
    QString legendNote() const;
    /// What stands at the pointer; and what is written at the combs of lit edges.
    const QString& reading() const { return m_reading; }
    QString combText() const;
    /// A picture for the proof sheet.
    QImage picture();
    void themeChanged() { update(); }
    int paints() const { return m_paints; }

  Q_SIGNALS:
    void picked(const Pick& pick);
    /// All that was in a box.
    void boxed(const QStringList& refs);
    void handleDragged(const HandleDrag& drag);
    void handleTyped(const QString& slot, const QString& text);
    void threadPulled(const ThreadPull& pull);
    void cutMoved(double offset);
    void overlayChanged();
    void valuesChanged(); ///< of colour maps
    void turned();        ///< by hand

  protected:
    void initializeGL() override;
    void resizeGL(int w, int h) override;
    void paintGL() override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void wheelEvent(QWheelEvent* e) override;
    void leaveEvent(QEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    void refreshMeshes();
    bool allInView() const;
    void refreshFields();
    void fillGround();
    void setRange();
    void paintOver(QPainter& p);
    void paintCompanion(QPainter& p);
    void paintScale(QPainter& p);
    void paintLegend(QPainter& p);
    void paintStripesLegend(QPainter& p);
    void paintBendingLegend(QPainter& p);
    void paintDeviationLegend(QPainter& p);
    void setDeviationRange();
    QString deviationText(double away) const;
    struct Combs {
        std::vector<std::pair<const BodyMesh*, EdgeLine>> edges;
        float most = 0; ///< 1/mm
        QVector3D tightest;
    };
    Combs combs() const;
    void paintCombs(QPainter& p);
    float commonBend() const;
    QString bendNear(const QVector3D& at, float reach) const;
    void paintReading(QPainter& p);
    void paintKeyPlace(QPainter& p);
    void paintMark(QPainter& p);
    void paintLost(QPainter& p);
    void paintMeasured(QPainter& p);
    void paintCallout(QPainter& p, QPointF at, const QString& text);
    void paintCutHandle(QPainter& p);
    void hover(QPoint pixel);
    void answerClick();
    void named();
    Pick pickAt(QPoint at);
    QString spotUnder(QPoint at, const QString& face);
    QStringList curvesUnder(QPointF at, const QStringList& edge) const;
    void pickAnything(QPointF at, bool face, const QStringList& refs, Pick& pick) const;
    const StrokeView* strokeUnder(QPointF at, QVector3D* nearest = nullptr) const;
    QStringList sectionsUnder(QPointF at, const QStringList& face) const;
    QStringList placesUnder(QPointF at) const;
    bool isSeen(const QVector3D& place) const;
    QStringList axisUnder(QPointF at) const;
    void paintAxes(QPainter& p) const;
    QStringList planeUnder(QPointF at, bool behindFace) const;
    QPolygonF planeOutline(const PlaneView& view) const;
    bool planeShown(const PlaneView& view) const;
    void paintGuides(QPainter& p);
    void paintAreas(QPainter& p) const;
    const AreaView* areaUnder(QPointF at, int& step) const;
    Handles::Scene handleScene() const;
    std::optional<Handles::Stop> stopUnder(QPoint at);
    bool takeHandle(QPoint at);
    void dragHandle(QPoint at);
    void dropHandle(QPoint at, bool moved);
    void tellHandle(bool done);
    void typeHandle(const QString& slot);
    Threads::Scene threadScene() const { return {m_camera, size()}; }
    bool takeThread(QPoint at);
    void pullThread(QPoint at);
    void dropThread(bool moved);
    void tellThread(bool done);
    void endTyping(bool keep);
    bool picksEdges() const;
    static bool isItsOwn(const QString& ref, bool edge);
    std::vector<std::uint32_t> itemsUnder(QPoint at) const;
    std::uint32_t idUnder(QPoint at) const;
    QString wordsOf(std::uint32_t id);
    QString nameOf(ThingId body) const;
    void forgetBeneath();
    bool isAtBeneath(QPoint at) const;
    void listUnder(QPoint at);
    void paintBeneath(QPainter& p);
    bool picksSeveral() const;
    void takeBox(const QRect& box);
    void answerBox();
    void paintBox(QPainter& p) const;
    void markBodies();
    QString readingNear(const QVector3D& at, float reach) const;
    void refreshIds();
    QVector4D plane() const;
    QVector3D planeNormal() const;
    double barLength() const; ///< mm
    QString lengthText(double mm, int decimals) const;
    void nextCompanion();

    ForgeLink* m_forge;
    Renderer m_renderer;
    Camera m_camera;
    DrawOptions m_options;
    Picking m_picking = Picking::Nothing;
    bool m_ready = false, m_meshesStale = true, m_fieldsStale = true, m_idsStale = true, m_fitted = false,
         m_moved = false;
    QPoint m_last, m_press;
    Pick m_under; ///< what a click would pick now
    bool m_guides = false;
    bool m_blank = false; ///< another part is on its way
    QString m_plane;
    Handles m_handles;
    Threads m_threads;
    QLineEdit* m_typing = nullptr; ///< a size that is typed at its handle
    bool m_several = false, m_aidsStale = true;
    std::vector<std::uint32_t> m_beneath; ///< what lies behind one another at a place
    std::size_t m_beneathPlace = 0;
    QPoint m_beneathAt;
    std::vector<std::uint32_t> m_boxed; ///< taken by a box, not all of it has a name yet
    int m_areasOf = 0;
    QStringList m_areas;
    enum class Drag { None, Orbit, Pan, Cut, Handle, Thread, Box } m_drag = Drag::None;
    QVector3D m_pivot;
    double m_cutOffset = 0;
    QPoint m_pointer{-1, -1};
    std::optional<QPoint> m_clicked; ///< what is there is not known yet
    QPoint m_keyAt;                  ///< where the keys are; null: nowhere
    std::map<ThingId, BodyStyle> m_styles;
    QString m_reading;
    std::optional<QVector3D> m_mark;
    QString m_markText;
    std::optional<QVector3D> m_lost;
    bool m_gone = false;
    std::optional<ReadingView> m_measured;
    std::optional<double> m_limitLow, m_limitHigh;
    QStringList m_chosen;
    QVariantAnimation m_flight;
    enum class Companion { Pencil, Sheet, None } m_companion = Companion::Pencil;
    QRectF m_companionLabel;
    int m_overlayTop = 14;
    double m_scaleRoom = 400; ///< px
    QTimer m_rest;
    bool m_smoothNext = false;
    int m_paints = 0;
};

} // namespace gc::app
