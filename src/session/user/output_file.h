#pragma once

#include <functional>
#include <string>
#include <string_view>

#include <QIODevice>

#include "core/values/result.h"

namespace session {

/// May a file be written there? Errors  NotAllowed for a study's file; Malformed for what is no plain file
core::Status checkOutput(const std::string& path);

/// Writes a file for a person: beside its place, then renamed into it, so that it is there whole or not at all. Never
/// onto a study, nor through a link onto one. `write`: puts the content, and says whether it could.
/// Errors  NotAllowed for a study's file; Malformed for what is no plain file; Io
core::Status writeOutput(const std::string& path, const std::function<bool(QIODevice&)>& write);
core::Status writeOutput(const std::string& path, std::string_view content);

}  // namespace session
