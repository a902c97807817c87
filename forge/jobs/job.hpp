#pragma once
/// \file One piece of the forge's work. A job that is dropped without having run still gives its answer:
/// answers are sent at the latest when what owes them goes.

#include "forge/jobs/workshop.hpp"

namespace gc::forge {

/// In the order in which they are taken up.
enum class Priority { Look, Build, Mesh, MeasureQuick, Export, MeasureFull, Refine, Since, Remedy, Solve };

class Job {
  public:
    Job() = default;
    Job(const Job&) = delete;
    Job& operator=(const Job&) = delete;
    virtual ~Job() = default;

    virtual Priority priority() const = 0;
    virtual const char* doing() const = 0; ///< for the window: "measure"
    virtual void run(Workshop& w) = 0;
    /// The part that it is about; 0: whichever there is.
    virtual int revision() const { return 0; }
    /// The window's number for what it asked; 0: it did not ask.
    virtual int ask() const { return 0; }
    /// Its part is not wanted any more once there is a newer one.
    virtual bool supersedable() const { return false; }
    /// It works within the kernel, which gives no sign of life for a while.
    virtual bool inKernel() const { return false; }
};

/// Whoever works on a part holds this; when the last one lets go, the window is told that all is done.
class RevisionTicket {
  public:
    RevisionTicket(Workshop& w, int revision) : m_workshop(w), m_revision(revision) {}
    ~RevisionTicket() { m_workshop.say(say::Done{m_revision, superseded}); }
    RevisionTicket(const RevisionTicket&) = delete;
    RevisionTicket& operator=(const RevisionTicket&) = delete;

    bool superseded = false;

  private:
    Workshop& m_workshop;
    int m_revision;
};
using TicketPtr = std::shared_ptr<RevisionTicket>;

/// A job on one part, as one of several.
class PartJob : public Job {
  public:
    PartJob(int revision, TicketPtr ticket) : m_revision(revision), m_ticket(std::move(ticket)) {}
    ~PartJob() override {
        if (!m_finished) m_ticket->superseded = true;
    }
    int revision() const override { return m_revision; }
    bool supersedable() const override { return true; }
    void run(Workshop& w) final { m_finished = work(w); }

  protected:
    /// \return false when it was left off
    virtual bool work(Workshop& w) = 0;
    const TicketPtr& ticket() const { return m_ticket; }

  private:
    int m_revision;
    TicketPtr m_ticket;
    bool m_finished = false;
};

std::unique_ptr<Job> buildJob(Workshop& w, say::PartToBuild message);
/// The first picture of a part also says which bodies there are; the second is a finer one.
std::unique_ptr<Job> meshJob(int revision, TicketPtr ticket, bool fine, bool first);
std::unique_ptr<Job> measureJob(int revision, TicketPtr ticket, bool walls);
std::unique_ptr<Job> sinceJob(int revision, TicketPtr ticket);
/// \param orders other places in the sheet are tried, too
std::unique_ptr<Job> remedyJob(int revision, TicketPtr ticket, std::size_t step, bool orders);
std::unique_ptr<Job> lookJob();
std::unique_ptr<Job> nameJob(say::NameItem message);
std::unique_ptr<Job> findJob(say::FindItems message);
std::unique_ptr<Job> readJob(say::TakeReadings message);
std::unique_ptr<Job> exportJob(Workshop& w, say::ExportBodies message);
std::unique_ptr<Job> solveJob(Workshop& w, say::SolveTarget message);

} // namespace gc::forge
