#pragma once

#include <string>
#include <string_view>

#include "core/study/study.h"
#include "core/values/result.h"

namespace store {

/// A study's question and plan as JSON, without loss. Described in docs/study-format.md.
[[nodiscard]] std::string studyToJson(const core::Study& study);

/// The inverse. Absent optional fields take their defaults; an unknown field is an error, since it is most likely a
/// misspelt one. Does not judge whether the study can be run (core::problemsOf does).
/// Errors  Malformed{line} for text that is no JSON; Missing, Malformed, OutOfRange with the field's path
[[nodiscard]] core::Result<core::Study> studyFromJson(std::string_view text, const std::string& source_name);

/// The same of a study that is new: where it does not say, more than two configurations share their spread, and looks
/// are paid by spending. A study file never means that by silence.
[[nodiscard]] core::Result<core::Study> newStudyFromJson(std::string_view text, const std::string& source_name);

/// Cases alone, as a design lists them: a list, or an object with `cases`. Errors  as studyFromJson
[[nodiscard]] core::Result<std::vector<core::Case>> casesFromJson(std::string_view text,
                                                                  const std::string& source_name);

}  // namespace store
