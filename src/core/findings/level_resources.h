#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/record/record.h"
#include "core/study/study.h"

namespace core {

/// Where the number of a level's resource comes from.
enum class ResourceSource { Design, Measured, Read };
/// "as the design says", "as measured", "as read".
[[nodiscard]] const char* resourceSourceName(ResourceSource source);

/// What a configuration offers, as a number that counts as exact.
struct LevelResource {
  double value = 0;
  std::string unit;  ///< "GB/s"; may be empty where the design says none
  ResourceSource source = ResourceSource::Design;
};

/// Of each configuration of a study of one variable: what its design says; else what its measuring command measured;
/// else what a capture read of its link, or of the fact by which the level is known. Nothing where nobody knows. Shapes
/// one a configuration; empty where several variables move
[[nodiscard]] std::vector<std::optional<LevelResource>> levelResources(const Study& study, const Record& record);

/// May two enter one sum: of one unit, and known in one way? MT/s among GB/s, or what was read among what was measured,
/// says nothing of a step between them.
[[nodiscard]] bool isOfOneKind(const LevelResource& one, const LevelResource& other);

/// What most levels are known by, the first of them where several are; nothing where none is known.
[[nodiscard]] std::optional<LevelResource> usualResource(std::span<const std::optional<LevelResource>> resources);

}  // namespace core
