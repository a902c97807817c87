#pragma once
/// \file Letting a window live until something holds, for tests and benches.

#include <QApplication>
#include <QElapsedTimer>
#include <QTimer>

#include <functional>

namespace gc::test {

/// False when the condition does not hold within the time. Between events the program sleeps: a loop that
/// spins takes the processor from the very work that it waits for.
inline bool waitFor(const std::function<bool()>& condition, int milliseconds) {
    QElapsedTimer clock;
    clock.start();
    QTimer beat; // wakes the loop for conditions that no event tells of
    beat.start(4);
    while (!condition()) {
        if (clock.elapsed() > milliseconds) return false;
        QApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents);
    }
    return true;
}

} // namespace gc::test
