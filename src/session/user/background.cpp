#include "session/user/background.h"
