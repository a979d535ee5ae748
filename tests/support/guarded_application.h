#pragma once

#include <QApplication>

#include "session/user/guarded.h"

namespace support {

/// The application of the window's tests, with the same top as the program's own.
using GuardedApplication = session::Guarded<QApplication>;

}  // namespace support
