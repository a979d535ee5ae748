#pragma once

#include <cstddef>
#include <string>

#include "core/study/study.h"

namespace core {

/// Whose noise it is, beside the bench's: what flips add belongs to how it was flipped and to what was measured. Texts
/// to be compared, and kept in registers; never shown.
struct NoiseKey {
  std::string measured;  ///< the case as it runs, what of it is the result, and its metric
  std::string flip;      ///< the kind of the variable, and the way in which its level is set
  bool operator==(const NoiseKey&) const = default;
};

/// Of a case of a study. A null study has the key of the study that it was made for: it sets the baseline's level in
/// the same way.
[[nodiscard]] NoiseKey noiseKeyOf(const Study& study, std::size_t case_index);

}  // namespace core
