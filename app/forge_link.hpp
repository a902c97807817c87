#pragma once
/// \file The window's end of the pipe to the forge: sends parts, keeps what comes back, and starts the forge
/// again when it dies or hangs.

#include "app/scene.hpp"
#include "core/document/part.hpp"
#include "forge/protocol.hpp"

#include <QElapsedTimer>
#include <QObject>
#include <QProcess>
#include <QTimer>

namespace gc::app {

class ForgeLink : public QObject {
    Q_OBJECT
  public:
    explicit ForgeLink(QObject* parent = nullptr);
    ~ForgeLink() override;

    /// Builds the part; a preview is not measured. A newer part supersedes an older one.
    void build(const Part& part, bool preview = false);
    /// What to send besides: points that can be picked, and what a drawing can follow (its step; 0: none).
    void look(bool places, int tracesOf);
    void exportTo(const QString& path);
    void solveTarget(int index);
    /// For tests: "crash", "hang", "memory" while the given step runs. Needs GOOD_CURVE_DEBUG=1.
    void misbehave(const QString& how);

    const std::map<QString, BodyMesh>& meshes() const { return m_meshes; }
    const std::map<QString, BodyField>& fields() const { return m_fields; }
    const std::map<int, StepView>& steps() const { return m_steps; }
    const std::map<int, OutlineView>& outlines() const { return m_outlines; }
    const std::vector<PlaneView>& planes() const { return m_planes; }
    /// By step.
    const std::map<int, DrawingView>& drawings() const { return m_drawings; }
    const std::vector<PlaceView>& places() const { return m_places; }
    /// What the drawing that look() named can follow.
    const std::vector<Trace>& traces() const { return m_traces; }
    const std::vector<TargetView>& targets() const { return m_targets; }
    bool wallsKnown() const { return m_wallsKnown; }
    bool busy() const { return m_busy; }
    double lastPictureMs() const { return m_pictureMs; }
    qint64 processId() const { return m_process ? m_process->processId() : 0; }
    /// A step may take this long before the forge is taken for hung.
    int restarts() const { return m_restarts; }
    void setStepLimit(int milliseconds) { m_stepLimit = milliseconds; }

  Q_SIGNALS:
    void stepsChanged();
    void meshesChanged();
    void fieldsChanged();
    void measuresChanged();
    void outlinesChanged();
    void guidesChanged(); ///< planes and drawings in space
    void lookChanged();   ///< what look() asked for
    void finished();
    void exported(const QString& path, const QString& error);
    void solved(int target, const std::vector<RemedyView>& remedies);
    void problem(const QString& sentence);
    void restarted(const QString& why);

  private:
    void tellOfSteps();
    void start();
    void received();
    void died(const QString& why, bool certain = false);
    void take(const Frame& frame);
    void takeStarted(const Frame& frame);
    void takeBodies(const Frame& frame);
    void takeOutline(const Frame& frame);
    void takeRemedy(const Frame& frame);
    void takeMargins(const Frame& frame);
    void takeFailed(const Frame& frame);
    void takeExported(const Frame& frame);
    void takeDone(const Frame& frame);
    void takeMesh(const Frame& frame);
    void takeGuides(const Frame& frame);
    void takeLook(const Frame& frame);
    void takeField(const Frame& frame);
    void takeStep(const Frame& frame);
    void takeSince(const Frame& frame);
    void takeSolved(const Frame& frame);
    void takeMeasures(const Frame& frame);
    void send(const Frame& frame);
    void sendLook();

    QProcess* m_process = nullptr;
    FrameReader m_frames;
    QTimer m_watch;
    QElapsedTimer m_stepClock, m_buildClock;
    int m_stepLimit = 60000;
    int m_revision = 0;
    int m_runningStep = 0;
    bool m_tryingRemedy = false;
    bool m_busy = false, m_wallsKnown = false, m_preview = false;
    double m_pictureMs = 0;
    QTimer m_tellSoon;
    int m_restarts = 0;
    int m_deathsInARow = 0;
    Part m_part;
    std::optional<Step> m_suspect;                      ///< ran when the forge died; it gets a second chance
    std::map<int, std::pair<Step, QString>> m_setAside; ///< steps that killed the forge, as they were then

    std::map<QString, BodyMesh> m_meshes;
    std::map<QString, BodyField> m_fields;
    std::map<int, StepView> m_steps;
    std::map<int, OutlineView> m_outlines;
    std::vector<TargetView> m_targets;
    std::vector<PlaneView> m_planes;
    std::map<int, DrawingView> m_drawings;
    std::vector<PlaceView> m_places;
    std::vector<Trace> m_traces;
    bool m_lookPlaces = false;
    int m_lookTraces = 0;
};

} // namespace gc::app
