#pragma once

#include <QString>

namespace app {

/// The act in the window that mends a doubt, by the name of its menu entry; empty where none does: then the place of
/// the doubt is to be looked at, and Accept with a reason is left. Shapes  `doubt_id` as a doubt has it: its kind, and
/// after a slash of what it tells
[[nodiscard]] QString actOfDoubt(const QString& doubt_id);

}  // namespace app
