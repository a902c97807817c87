#pragma once
/// \file For .cpp files: the areas of a drawing that a step was given.

#include "core/model/arguments.hpp"

namespace gc {

/// The outline that the slot "outline" names. \param kind of step, for the code of the error: ".outline"
/// where there is none
Result<const Outline*> outlineFor(const Arguments& args, ModelReader& model, const std::string& kind);
/// The same where it is a drawing: stations are none.
Result<const Outline*> drawingFor(const Arguments& args, ModelReader& model, const std::string& kind);

struct ChosenArea {
    const Region* area = nullptr;
    Message note; ///< when a stroke that came later divides it; empty as a rule
};

/// The areas that a slot's text means; none where that is empty. \param called what a person calls the
/// drawing \param code of the error when one is no longer there
Result<std::vector<ChosenArea>> chosenAreas(const Outline& outline, const std::string& text,
                                            const std::string& called, const std::string& code);

/// The areas that a step was given by its slots "outline" and "area": those that were chosen, else all that
/// the drawing makes solid; those side by side as one. \param kind of step, for the codes of errors: ".area"
/// and ".open", where it encloses nothing
Result<std::vector<Region>> meantAreas(const Arguments& args, const Outline& outline, const std::string& kind,
                                       std::vector<Message>& notes);

} // namespace gc
