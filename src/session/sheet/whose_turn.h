#pragma once

#include "session/study/machine.h"
#include "session/study/open_study.h"

namespace session {

/// Does the visit that was begun last go on with this slot: nothing but passes has happened since it began, nobody
/// repeats it, and nothing contradicts its level? A restart makes it another one.
[[nodiscard]] bool isVisitInHand(const OpenStudy& open, const core::Slot& slot, const std::string& boot);

/// Was a person asked to bring about the level of a slot since the last visit began?
[[nodiscard]] bool wasAskedFor(const OpenStudy& open, const core::Slot& slot);

/// A level that a person sets waits until they have. One that goes beyond what the maker set is not left unattended.
[[nodiscard]] bool isLevelForAPerson(const OpenStudy& open, const core::Slot& slot);

/// Can the next pass not begin before a person has done something: set its level, decided at a planned look or about a
/// level that the bench contradicts, played it, or typed its result? Nothing next: no.
[[nodiscard]] bool waitsForPerson(const OpenStudy& open, const Machine& machine);

}  // namespace session
