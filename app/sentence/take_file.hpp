#pragma once
/// \file A file that is chosen for a slot of a sentence becomes an attachment of the part.

#include "core/document/part.hpp"
#include "core/document/step_words.hpp"

#include <QString>

class QWidget;

namespace gc::app {

struct TakenFile {
    std::string name; ///< of the attachment; empty: none was taken
    QString fault;    ///< why it was not, in words; empty: nobody chose one
};

/// Asks for a file as the slot takes them and puts it into the part.
TakenFile takeFile(QWidget* window, const StepWords& step, const SlotWords& slot, Part& part);

} // namespace gc::app
