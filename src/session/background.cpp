#include "session/background.h"
