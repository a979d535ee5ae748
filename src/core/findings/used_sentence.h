#pragma once

#include <string>

#include "core/findings/used.h"

namespace core {

/// What surely rose or fell: "draws 9.0 % more (8.6 to 9.4), package". Of a change that surely is one.
[[nodiscard]] std::string movedText(const Used& used);

/// What the result of the case did meanwhile, as far as that is settled: ", for an improvement of 2.0 % (1.8 to 2.2)",
/// ", and is no better"; else empty.
[[nodiscard]] std::string meanwhileText(const CaseFinding& finding);

}  // namespace core
