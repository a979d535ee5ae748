// What a person types at the desk: numbers with units in any spelling, for every number of every ask. Whatever is taken
// is a number within its range of the ask, or refused with a sentence; the answer then is one that can be shown.
#include <cmath>
#include <string>

#include "core/desk/desk_typed.h"
#include "fuzz/bytes.h"

using fuzz::demand;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  fuzz::Bytes bytes(data, size);
  const auto asks = core::deskAsks();
  const core::DeskAsk& ask = asks[bytes.take() % asks.size()];
  core::DeskNumbers all;
  for (const core::DeskInput& input : ask.inputs) {
    const std::string text = bytes.text();
    const auto typed = core::deskTyped(ask, input, text);
    if (!typed) {
      demand(!typed.error().what.empty() && !typed.error().remedy.empty());
      continue;
    }
    for (const auto& [key, numbers] : *typed)
      for (const double number : numbers) demand(std::isfinite(number));
    for (const auto& [key, numbers] : *typed) all[key] = numbers;
  }
  const auto answer = core::deskAnswer(ask.id, all);
  if (!answer) {
    demand(!answer.error().what.empty());
    return 0;
  }
  for (const core::DeskValue& value : *answer) {
    if (const auto* one = std::get_if<std::optional<double>>(&value.value)) demand(!*one || std::isfinite(**one));
    demand(!core::deskValueText(value).empty());
  }
  return 0;
}
