#pragma once

#include <string>

namespace session {

/// Who holds a file: "M. Osei, process 4711 on dome-3".
[[nodiscard]] std::string holderText(const std::string& person);

/// What a holder wrote at that place of a file, fit to be shown: anybody's text, so no more than a line of it.
[[nodiscard]] std::string holderAt(int descriptor, long place);

/// Is the open file the one that has this name? Between an open and a lock its holder may have removed it.
[[nodiscard]] bool isStillNamed(const std::string& path, int descriptor);

}  // namespace session
