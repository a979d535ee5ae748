#include "core/machine/stated_fact.h"

#include <algorithm>
#include <array>

#include <fmt/format.h>

#include "core/values/number_text.h"

namespace core {
namespace {

constexpr std::array kKinds{
    StatedKind{"room_temperature", "room temperature", "°C", "22.5", FactKind::Evidence},
    StatedKind{"cooler", "cooler and fans", "", "tower cooler, two fans, lid closed"},
    StatedKind{"power_supply", "power supply", "", "750 W, two separate cables to the card"},
    StatedKind{"cable", "cable or riser", "", "40 Gb/s cable of 0.8 m, the box's own"},
    StatedKind{"lent_by", "who lent which part", "", "card lent by its maker until March", FactKind::Identity},
    StatedKind{"chosen_because", "why this part was chosen", "", "the one that the dome will get", FactKind::Identity},
};

}  // namespace

std::span<const StatedKind> statedKinds() { return kKinds; }

const StatedKind* findStatedKind(std::string_view id) {
  const auto found = std::find_if(kKinds.begin(), kKinds.end(), [&](const StatedKind& one) { return one.id == id; });
  return found == kKinds.end() ? nullptr : &*found;
}

Result<Fact> statedFact(std::string_view id, const std::string& value, const std::string& person) {
  const StatedKind* kind = findStatedKind(id);
  if (!kind) {
    std::string known;
    for (const StatedKind& one : kKinds) known += fmt::format("{}{}", known.empty() ? "" : ", ", one.id);
    return Error{ErrorKind::OutOfRange, fmt::format("there is no such fact as '{}'", id), "stated facts",
                 "Use one of " + known + "; anything else fits into a note"};
  }
  Fact fact;
  fact.name = fmt::format("stated/{}", id);
  fact.kind = kind->kind;
  fact.value = value;
  fact.unit = kind->unit;
  fact.source = fmt::format("stated by {}", person);
  if (!kind->unit.empty()) {
    fact.number = numberTyped(value);
    if (!fact.number)
      return Error{ErrorKind::Malformed, fmt::format("'{}' is not a number", value), std::string(kind->title),
                   fmt::format("Enter the number alone, in {}", kind->unit)};
  }
  return fact;
}

}  // namespace core
