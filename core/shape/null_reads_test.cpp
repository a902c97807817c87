#include "core/shape/kernel.hpp"

#include <Geom_Plane.hxx>
#include <Standard_ErrorHandler.hxx>
#include <catch2/catch.hpp>
#include <csignal>
#include <sys/wait.h>
#include <unistd.h>

using namespace gc;

#ifndef __SANITIZE_ADDRESS__

namespace {

struct Cell {
    double before[40] = {}, value = 1;
};
/// The compiler cannot know that it is nothing.
double readsOf(const volatile Cell* cell) {
    return cell->value; // NOLINT(clang-analyzer-core.NullDereference): that is what is tried
}
Result<double> tried(Cell* thing) {
    return guarded("a.b", "It cannot be read.", [&]() -> Result<double> { return readsOf(thing); });
}

} // namespace

TEST_CASE("A read through nothing is an error of the operation, again and again, and within another") {
    Cell there;
    for (int round = 0; round < 3; ++round) {
        const auto fault = tried(nullptr);
        REQUIRE_FALSE(fault);
        CHECK(fault.error().code == "a.b");
        CHECK(*tried(&there) == 1);
    }
    const auto outer = guarded("c.d", "Neither can this.", [&]() -> Result<double> {
        const auto inner = tried(nullptr);
        if (inner) return inner;
        return 2 + readsOf(&there); // the inner fault leaves the outer work going
    });
    CHECK(*outer == 3);
    const auto both = guarded("c.d", "Neither can this.", [&]() -> Result<double> {
        (void)tried(nullptr);
        return readsOf(nullptr);
    });
    CHECK(both.error().code == "c.d");
}

TEST_CASE("The kernel's try blocks that are jumped out of are in its list no more, those around stay") {
    const auto within = [](const std::function<void()>& work) {
        const Standard_ErrorHandler block;
        work();
    };
    REQUIRE_FALSE(Standard_ErrorHandler::IsInTryBlock());
    const auto fault = guarded("a.b", "It cannot be read.", [&]() -> Result<double> {
        double read = 0;
        within([&] { within([&] { read = readsOf(nullptr); }); });
        return read;
    });
    CHECK_FALSE(fault);
    CHECK_FALSE(Standard_ErrorHandler::IsInTryBlock());
    within([&] {
        const auto inner = guarded("a.b", "It cannot be read.", [&]() -> Result<double> {
            double read = 0;
            within([&] { read = readsOf(nullptr); });
            return read;
        });
        CHECK_FALSE(inner);
        CHECK(Standard_ErrorHandler::IsInTryBlock());
    });
    CHECK_FALSE(Standard_ErrorHandler::IsInTryBlock());
}

TEST_CASE("A read beside any memory, or of nothing outside an operation, ends the process as ever") {
    const auto endsBy = [](const std::function<void()>& work) {
        const pid_t child = fork();
        if (child == 0) {
            work();
            _exit(0);
        }
        int how = 0;
        waitpid(child, &how, 0);
        return WIFSIGNALED(how) ? WTERMSIG(how) : 0;
    };
    CHECK(endsBy([] { (void)tried(reinterpret_cast<Cell*>(0x5000000000)); }) == SIGSEGV);
    CHECK(endsBy([] {
              (void)tried(nullptr);
              (void)readsOf(nullptr);
          }) == SIGSEGV);
    CHECK(endsBy([] { (void)tried(nullptr); }) == 0);
    CHECK(endsBy([] {
              (void)tried(nullptr);
              std::raise(SIGSEGV);
          }) == SIGSEGV);
}

#endif
