#pragma once

#include <map>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "core/values/result.h"

namespace core {

/// Sums that people do in their heads while they plan.

/// What a number may be.
struct DeskRange {
  double least = 0;
  bool may_be_least = false;  ///< else it lies above
  double most = 1e15;
  bool is_whole = false;
};

/// A number that an ask takes.
struct DeskInput {
  std::string_view key;   ///< as scripts and vectors have it: "generation", "GBps"
  std::string_view unit;  ///< "GB/s"; empty for a bare number
  std::string_view title;
  std::optional<double> usually = {};  ///< taken where nothing is said
  bool is_needed = true;
  bool is_list = false;
  DeskRange range = {};
};

/// What can be asked of the desk.
struct DeskAsk {
  std::string_view id;
  std::string_view title;
  std::vector<DeskInput> inputs;
  std::string_view formula;
  std::string_view does_not_say;  ///< a sentence: what to mind beside the numbers
};
/// In the order in which people meet them.
[[nodiscard]] std::span<const DeskAsk> deskAsks();
/// Nothing for an id that is not known.
[[nodiscard]] const DeskAsk* findDeskAsk(std::string_view id);

/// Numbers by the keys of an ask; one that is no list has one.
using DeskNumbers = std::map<std::string, std::vector<double>>;

/// Another generation and width that carries as much.
struct EqualLink {
  int generation = 0;
  int lanes = 0;
  double ratio = 1;  ///< what it carries over what was asked about
};

/// A number of an answer: one, none where it is not defined, several, or links.
struct DeskValue {
  std::string_view key;
  std::string_view unit;
  std::string_view title;
  std::variant<std::optional<double>, std::vector<double>, std::vector<EqualLink>> value;
};

/// The answer to an ask.
/// Errors  Missing for an ask that is not known, and for a number that it needs; Malformed for one that it does not
/// take; OutOfRange for numbers that cannot be, such as a rate of 0, and where the answer is beyond numbers
/// Source  each ask's formula; PCI Express base specification for links. Held by known-answer vectors
[[nodiscard]] Result<std::vector<DeskValue>> deskAnswer(std::string_view ask, const DeskNumbers& numbers);

}  // namespace core
