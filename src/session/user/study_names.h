#pragma once

#include <string>

#include "core/study/study.h"

namespace session {

/// Where a new study is kept until somebody wants it elsewhere: a file in this folder that is not there yet. It has no
/// question to be named by: "question 1 of 2026-03-14.ironlever".
[[nodiscard]] std::string newStudyPath(const std::string& folder);
/// Does a study of this folder still have such a name?
[[nodiscard]] bool isNamedByNumber(const std::string& path, const std::string& folder);

/// "Dome node 3, graphics link, Gen 3 to Gen 4": fit to be a file's name.
[[nodiscard]] std::string questionName(const core::Study& study);
/// A file of that name beside `path`, with a number behind where another one has it; `path` where that is it already.
[[nodiscard]] std::string pathByQuestion(const core::Study& study, const std::string& path);

}  // namespace session
