// Two captures of a machine, each with some of its readings changed, held against each other: whatever they say, a
// thing is equal to itself, the two directions agree on what differs, and no reading that could not be taken counts as
// equal.
#include <string>

#include "core/machine/comparison.h"
#include "core/machine/difference_sentences.h"
#include "core/machine/memory_layout.h"
#include "core/machine/variable_kind.h"
#include "fuzz/bytes.h"
#include "store/json/capture_json.h"

using fuzz::demand;
using Json = nlohmann::ordered_json;

namespace {

Json validCapture() {
  core::Capture capture;
  capture.boot_id = "boot";
  for (const auto& [name, value] :
       std::initializer_list<std::pair<const char*, const char*>>{{"pci/0000:01:00.0/class", "0x030000"},
                                                                  {"pci/0000:01:00.0/current_link_speed", "8.0 GT/s"},
                                                                  {"pci/0000:01:00.0/current_link_width", "16"},
                                                                  {"pci/0000:01:00.0/max_link_speed", "16.0 GT/s"},
                                                                  {"pci/0000:01:00.0/resource1_size", "268435456"},
                                                                  {"pci/0000:00:01.0/current_link_speed", "8.0 GT/s"},
                                                                  {"dmi/memory/DIMM_A2/configured_speed", "4800"},
                                                                  {"dmi/memory/DIMM_A2/size", "17179869184"},
                                                                  {"dmi/bios_version", "D2-1.14"},
                                                                  {"memory/total", "33600000000"},
                                                                  {"cpu/online", "0-7"},
                                                                  {"cpu/governor", "performance"},
                                                                  {"cpu/flags", "fpu sse2"},
                                                                  {"kernel/release", "6.1"},
                                                                  {"stated/room_temperature", "21"}}) {
    core::Fact fact;
    fact.name = name;
    fact.value = value;
    capture.put(fact);
  }
  return Json::parse(store::captureToJson(capture));
}

core::Result<core::Capture> changedCapture(const Json& valid, fuzz::Bytes& bytes) {
  return store::captureFromJson(fuzz::changed(valid, bytes).dump(-1, ' ', false, Json::error_handler_t::replace),
                                "capture");
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  static const Json valid = validCapture();
  fuzz::Bytes bytes(data, size);
  const auto& kinds = core::variableKinds();
  const core::VariableKind* kind = &kinds[bytes.take() % kinds.size()];
  const auto before = changedCapture(valid, bytes);
  const auto after = changedCapture(valid, bytes);
  if (!before || !after) return 0;
  demand(store::captureFromJson(store::captureToJson(*before), "capture").ok());
  (void)core::memoryRating(*before);
  const auto compare = [&](const core::Capture& from, const core::Capture& to) {
    return core::compareCaptures(from, to, {kind, "", {}, "before", "now"});
  };
  const core::Comparison same = compare(*before, *before);
  demand(same.meant.empty() && same.must_not.empty() && same.comes_along.empty());
  const core::Comparison there = compare(*before, *after);
  const core::Comparison back = compare(*after, *before);
  demand(there.must_not.size() == back.must_not.size() && there.meant.size() == back.meant.size());
  for (const auto* group : {&there.meant, &there.must_not, &there.comes_along}) (void)core::differenceSentences(*group);
  return 0;
}
