#pragma once

#include <QStringList>

namespace app {

/// The studies that this user opened last, the newest first: absolute paths of files that are still there. Kept in the
/// user's settings.
[[nodiscard]] QStringList recentStudies();
/// What stands for one of them on a button or in a menu: its name, and its folder, since several may be called the
/// same.
[[nodiscard]] QString recentTitle(const QString& path);
/// `path` was opened.
void rememberStudy(const QString& path);

}  // namespace app
