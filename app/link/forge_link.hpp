#pragma once
/// \file The window's end of the pipe to the forge: sends parts, keeps what comes back, and starts the forge
/// again when it dies or falls silent.

#include "app/link/surfaces.hpp"
#include "core/document/part.hpp"

#include <QElapsedTimer>
#include <QObject>
#include <QProcess>
#include <QTimer>

#include <set>

namespace gc::app {

class ForgeLink : public QObject {
    Q_OBJECT
  public:
    explicit ForgeLink(QObject* parent = nullptr);
    ~ForgeLink() override;

    /// Builds the part; a preview is not measured. A newer part supersedes an older one.
    void build(const Part& part, bool preview = false);
    /// What to send besides: points that can be picked, what a drawing can follow (its step; 0: none), and
    /// the handles and the solid of a step.
    void look(bool places, int tracesOf, int aidsOf);
    /// Writes the bodies of this very part, whole. See exported and exportAsks.
    void exportPart(const Part& part, const QString& path, bool evenIfStepsFail = false,
                    const std::vector<ThingId>& bodies = {});
    void solveTarget(int index);
    /// What one or two things measure (Target::of says how they are named), as the part is shown now: see
    /// readingsTaken. Only the last that was asked is answered.
    void read(const QStringList& picked);
    /// For tests: "crash", "hang", "memory", "nonsense". Needs GOOD_CURVE_DEBUG=1.
    void misbehave(const QString& how);

    /// How an item on the stand can be referred to, rules first. Nothing: it is asked, see itemNamed.
    /// None: it is the step's own that is being filled in, or has no name.
    const QStringList* namesOf(const BodyItem& item);
    /// The step that is being filled in, by its id; 0: none.
    void setTrial(int step);
    /// The items that these references mean, found anew with each part: see haloChanged.
    void setHalo(const QStringList& references);
    const std::vector<BodyItem>& halo() const { return m_halo; }

    /// Of the part that was sent last.
    const UnitSystem& units() const { return m_part.brief.units; }
    const std::map<ThingId, BodyMesh>& meshes() const { return m_meshes; }
    const std::map<ThingId, BodyField>& fields() const { return m_fields; }
    const std::map<int, StepView>& steps() const { return m_steps; }
    const std::map<int, OutlineView>& outlines() const { return m_outlines; }
    const std::vector<PlaneView>& planes() const { return m_planes; }
    const std::vector<AxisView>& axes() const { return m_axes; }
    /// By step.
    const std::map<int, DrawingView>& drawings() const { return m_drawings; }
    const std::vector<PlaceView>& places() const { return m_places; }
    /// Of the step that look() named; empty for none.
    const AidsView& aids() const { return m_aids; }
    /// What the drawing that look() named can follow.
    const std::vector<Trace>& traces() const { return m_traces; }
    const std::vector<TargetView>& targets() const { return m_targets; }
    /// Of each body, g; what was not weighed yet is not there.
    const std::map<ThingId, double>& masses() const { return m_masses; }
    bool wallsKnown() const { return m_wallsKnown; }
    /// All that is measured is of the part that was sent last, and that is no preview.
    bool hasMeasured() const { return m_wallsKnown && m_measured == m_revision && !m_preview; }
    /// The part is being built or measured.
    bool busy() const { return m_busy; }
    /// An answer is due.
    bool waiting() const { return m_busy || !m_asks.empty(); }
    double lastPictureMs() const { return m_pictureMs; }
    qint64 processId() const { return m_process ? m_process->processId() : 0; }
    int restarts() const { return m_restarts; }
    /// The forge is taken for hung after so long without a sign of life.
    void setSilenceLimit(int milliseconds) { m_silenceLimit = milliseconds; }

  Q_SIGNALS:
    void stepsChanged();
    void meshesChanged();
    void bodiesShown(); ///< all bodies of the part that was sent last have a mesh
    void fieldsChanged();
    void measuresChanged();
    void outlinesChanged();
    void guidesChanged(); ///< planes and drawings in space
    void lookChanged();   ///< what look() asked for, but for the aids
    void aidsChanged();
    void itemNamed(); ///< an answer to namesOf()
    void haloChanged();
    void finished();
    /// \param notes what is to be known of a file that was written
    void exported(const QString& path, const QString& error, const QStringList& notes = {});
    /// Nothing was written, for these steps fail: shall the file be written without them?
    void exportAsks(const QString& path, const std::vector<int>& failingSteps);
    void solved(int target, const std::vector<RemedyView>& remedies);
    void readingsTaken(const std::vector<ReadingView>& readings, const QString& fault);
    void problem(const QString& sentence);
    void restarted(const QString& why);

  private:
    /// What was asked and is not answered yet.
    struct Asked {
        std::function<void()> givenUp; ///< when the forge died: the answer that is given instead
        BodyItem item{};               ///< of a name
        QString path{};                ///< of an export
        std::uint64_t content = 0;     ///< of the body whose item is to be named
    };

    void tellOfSteps();
    void start();
    void received();
    void watch();
    /// What the step that was running when the forge died has to do with it.
    enum class Blame {
        No,    ///< the forge said nonsense: that is no step's doing
        Maybe, ///< it may have been killed from outside: the second time tells
        Step,  ///< it hung there
    };
    void died(const QString& why, Blame blame);
    void take(const say::ToWindow& message);
    void on(const say::Alive& m) { m_doing = m.doing; }
    void on(const say::StepStarted& m);
    void on(const say::StepFared& m);
    void on(const say::StationsFared& m);
    void on(const say::BodySurface& m);
    void on(const say::BodyValues& m);
    void on(const say::BodiesShown& m);
    void on(const say::GuidesShown& m);
    void on(const say::LookShown& m);
    void on(const say::AidsShown& m);
    void on(const say::MeasuresTaken& m);
    void on(const say::MarginsTaken& m);
    void on(const say::RemedyTried& m);
    void on(const say::SinceFound& m);
    void on(const say::Failed& m);
    void on(const say::Done& m);
    void on(const say::ItemNamed& m);
    void on(const say::ItemsFound& m);
    void on(const say::Exported& m);
    void on(const say::Solved& m);
    void on(const say::ReadingsTaken& m);
    bool isNow(int revision) const { return revision == m_revision; }
    void send(const say::ToForge& message);
    void sendLook();
    bool mayStart();
    void askHalo();
    void giveUpAsks();
    void blameStep(int step, const QString& why, Blame blame);
    void blameAfterwards();
    void tellOfUnmeasured();
    int ask(Asked asked);

    QProcess* m_process = nullptr;
    FrameReader m_frames;
    QTimer m_watch;
    int m_silentTicks = 0;
    QElapsedTimer m_buildClock;
    int m_silenceLimit = 5000;
    int m_revision = 0, m_lastAsk = 0, m_haloAsk = 0, m_readAsk = 0;
    int m_measured = 0; ///< the revision that the measures are of
    int m_runningStep = 0;
    bool m_tryingRemedy = false;
    bool m_busy = false, m_wallsKnown = false, m_preview = false;
    double m_pictureMs = 0;
    QTimer m_tellSoon;
    int m_restarts = 0;
    std::vector<qint64> m_starts; ///< ms: when the forge was started, within the last minute
    bool m_resting = false;       ///< it died too often: the next edit of a person starts it again
    Part m_part;
    std::string m_sentText;              ///< of the part that was sent last
    std::set<std::uint64_t> m_heldFiles; ///< by the forge
    std::map<int, Asked> m_asks;
    /// The step that ran when the forge died, with all it rests on: it gets a second chance.
    std::string m_suspect;
    /// Steps that killed the forge: with all that they rested on then, and why.
    std::map<int, std::pair<std::string, QString>> m_setAside;

    std::string m_doing; ///< by the forge, as it said last
    /// What killed the forge after the steps: the part, as sent, and how often so; then it is left undone.
    struct LeftUndone {
        std::string text{};
        int measuring = 0, drawing = 0;
    };
    LeftUndone m_undone;

    std::map<ThingId, BodyMesh> m_meshes;
    std::map<ThingId, BodyField> m_fields;
    std::map<std::pair<ThingId, int>, PatchStore> m_patches; ///< 0 coarse, 1 fine, 2 values
    int m_trial = 0;
    std::map<BodyItem, std::pair<std::uint64_t, QStringList>> m_names; ///< with the content they hold for
    QStringList m_haloRefs;
    std::vector<BodyItem> m_halo;
    std::map<int, StepView> m_steps;
    std::map<int, OutlineView> m_outlines;
    std::vector<TargetView> m_targets;
    std::map<ThingId, double> m_masses;
    std::vector<PlaneView> m_planes;
    std::vector<AxisView> m_axes;
    std::map<int, DrawingView> m_drawings;
    std::vector<PlaceView> m_places;
    std::vector<Trace> m_traces;
    bool m_lookPlaces = false;
    int m_lookTraces = 0, m_lookAids = 0;
    AidsView m_aids;
};

} // namespace gc::app
