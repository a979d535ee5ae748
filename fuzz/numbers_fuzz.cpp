// One number in every way in which a pass's result comes in: typed by a person, printed as JSON, written into a log.
// Whoever takes it takes it for the same.
#include <cmath>
#include <string>

#include "core/values/number_text.h"
#include "core/values/typed_value.h"
#include "fuzz/bytes.h"
#include "store/logs/frame_log.h"
#include "store/logs/json_result.h"
#include "store/logs/log_shape.h"

using fuzz::demand;

namespace {

bool isPlain(const std::string& text) {
  return !text.empty() &&
         std::all_of(text.begin(), text.end(), [](char c) { return (c >= '0' && c <= '9') || c == '.'; }) &&
         text[0] != '.' && text.back() != '.' && std::count(text.begin(), text.end(), '.') <= 1;
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const std::string text(reinterpret_cast<const char*>(data), size);
  const auto number = core::numberOf(text);
  if (number) demand(std::isfinite(*number));
  const auto printed = store::numberFromJson("noise {\"result\": {\"seconds\": " + text + "}}\n", "result.seconds");
  if (printed) demand(std::isfinite(*printed));
  const auto typed = core::parseTyped(text, core::DecimalSign::Point);
  if (typed) demand(std::isfinite(typed->value) && typed->resolution >= 0);
  const auto logged = store::parseFrameLog("frame_ms\n" + text + "\n" + text + "\n", "frame_ms", "log");
  if (logged)
    for (const double frame_ms : *logged) demand(frame_ms > 0 && std::isfinite(frame_ms));
  const auto shape = store::detectShape("frame_ms\n" + text + "\n" + text + "\n", "log");
  const auto runs = shape ? store::importLog("frame_ms\n" + text + "\n" + text + "\n", *shape, "log") : shape.error();
  if (!isPlain(text) || !number) return 0;
  if (printed) demand(*printed == *number);
  if (typed && !typed->is_range) demand(typed->value == *number);
  if (logged && logged->size() == 2) demand(logged->front() == *number);
  if (runs && shape->time.ms_per_unit == 1 && shape->time.meaning == store::TimeMeaning::Duration &&
      !shape->has_decimal_comma)
    demand(runs->front().frame_ms.front() == *number);
  return 0;
}
