#pragma once

#include "core/judgement/judgement.h"
#include "session/sheet/with_session.h"

namespace cli {

using session::withSession;

}  // namespace cli
