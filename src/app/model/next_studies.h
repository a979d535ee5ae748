#pragma once

#include <QString>
#include <cstddef>
#include <optional>

#include "app/model/study_model.h"

namespace app {

// Questions to ask after the one that is open. StudyModel::create makes a study of one.

/// Where a new study is kept until somebody wants it elsewhere, and under which name: a file that is not there yet.
[[nodiscard]] QString newStudyPath(const StudyModel& model);

/// A question of which nothing is said yet.
[[nodiscard]] core::Study emptyQuestion();

/// The open question with the next lower level than the last one that could not be reached; nothing where nobody can
/// tell.
[[nodiscard]] std::optional<core::Study> withLowerLevel(const StudyModel& model);

/// The question that the open study leaves open: the level below its lowest; nothing before all is measured, or where
/// nobody can tell.
[[nodiscard]] std::optional<core::Study> furtherDown(const StudyModel& model);

/// A null study of the open one: every flip is performed, the level stays at the baseline. Six visits or more, as long
/// as the study's own, so that later plans can rest on it.
[[nodiscard]] core::Study nullStudyFor(const StudyModel& model);

/// Makes a study that looks at a surprise again: this case and an unsurprising one, at both levels, kept apart from the
/// first look, which notes that it begins.
void confirm(StudyModel& model, const QString& path, std::size_t case_index);

}  // namespace app
