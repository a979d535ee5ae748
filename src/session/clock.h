#pragma once

#include <QDateTime>
#include <cstdint>

namespace session {

/// UTC, milliseconds since 1970.
[[nodiscard]] inline std::int64_t now() { return QDateTime::currentMSecsSinceEpoch(); }

}  // namespace session
