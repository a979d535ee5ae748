#pragma once

#include <string>
#include <vector>

#include "core/study/shelf.h"

namespace session {

/// Where programs say that they are installed: the folders "applications" of this user and of the system.
[[nodiscard]] std::vector<std::string> applicationFolders();

/// The programs of a person that those folders name, each as a scene that is played by hand and whose frames are
/// recorded; by name, those that most likely draw much first. Nothing of them is started. An entry that cannot be read,
/// is hidden, runs in a terminal, or would need a shell is left out; of two files of one name the first folder's
/// counts. Source  Desktop Entry Specification 1.5
[[nodiscard]] std::vector<core::ShelfItem> installedPrograms(const std::vector<std::string>& folders);

/// The words of an entry's command line, without its field codes; empty where its quotes do not match.
[[nodiscard]] core::Command wordsOfExec(const std::string& exec);

}  // namespace session
