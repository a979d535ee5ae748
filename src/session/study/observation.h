#pragma once

#include <string>

#include "session/study/open_study.h"

namespace session {

/// Enters what somebody noticed beside what is measured ("the port does not charge"): it stands in the report.
/// `picture_path`: of a picture of it, which is kept in the study; empty: there is none.
/// Errors  OutOfRange for an empty text; those of readPicture; of the study file
core::Status observe(OpenStudy& open, const std::string& text, const std::string& picture_path);

}  // namespace session
