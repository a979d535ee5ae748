#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/device_path.h"
#include "core/fact.h"

namespace core {

/// A kind of platform variable: which facts must move with it, which may come along, and how a person changes it
/// safely. Every configuration fact that is not named here must not change: a comparison is about one variable. Fields
/// are patterns (* stands for any text) with places: {device} the device under test, {slot} both ends of its slot's
/// link, {path} every port and device on its way.
struct VariableKind {
  std::string_view id;                        ///< stable, in snake case; stands in study files and on the command line
  std::string_view title;                     ///< "PCIe generation"
  std::string_view noun;                      ///< in a sentence: "the link change"
  bool needs_reboot = false;                  ///< two captures of one boot cannot show it
  bool is_link = false;                       ///< a link is only to be trusted under load
  bool is_whole = false;                      ///< one part against another as wholes: much must change
  std::vector<std::string_view> must_change;  ///< every fact that fits must change; none may be missing
  std::vector<std::string_view> any_of;       ///< at least one fact that fits must change; the others come along
  std::vector<std::string_view> comes_along;
  std::vector<std::string_view> must_stay;  ///< even where comes_along would let it go: what must travel along
  std::vector<std::string_view> steps;      ///< for a person, in order
  std::vector<std::string_view> cautions;   ///< to be read before the first step
};

/// All kinds, in the order in which they are offered; "other" last.
[[nodiscard]] std::span<const VariableKind> variableKinds();
/// Nothing for an id that is not known.
[[nodiscard]] const VariableKind* findVariableKind(std::string_view id);

/// Puts a path's addresses into a pattern's places: one pattern for each address.
[[nodiscard]] std::vector<std::string> placedPatterns(std::string_view pattern, const std::string& device,
                                                      const DevicePath& path);

}  // namespace core
