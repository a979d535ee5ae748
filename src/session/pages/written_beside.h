#pragma once

#include <filesystem>
#include <span>
#include <string>

#include "core/beside/beside.h"
#include "core/values/result.h"

namespace session {

/// Can something be written under this name? Errors  OutOfRange for an ending that nothing is written with
[[nodiscard]] core::Status checkBesidePath(const std::string& path);

/// Writes what is said of several studies, by the ending of `path`: NAME.beside.json names the studies as seen from
/// there, so that they can be laid beside each other again; .html is a page, .pdf the same on paper, .svg its picture,
/// .csv and .json its numbers. Shapes  `folder`: from which the paths of the studies are seen now. Errors  those of
/// checkBesidePath and of writing
core::Status writeBeside(const std::string& path, const core::Beside& beside, std::span<const core::StudyAside> studies,
                         const core::BesideOrder& order, const std::filesystem::path& folder);

/// The order of a NAME.beside.json. Errors  of reading it; Malformed
[[nodiscard]] core::Result<core::BesideOrder> readBesideOrder(const std::string& path);

}  // namespace session
