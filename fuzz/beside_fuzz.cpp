// Documents of studies beside each other, and what people type about them: numbers from elsewhere, days to look for.
#include <cmath>
#include <string>

#include "fuzz/bytes.h"
#include "store/cabinet/beside_document.h"
#include "store/cabinet/day_span.h"

using fuzz::demand;

namespace {

const nlohmann::json kDocument = nlohmann::json::parse(R"({
  "kind": "table", "studies": [{"path": "a.ironlever", "sha256": "00", "identity": "9f"}, {"path": "b.ironlever"}],
  "level": "Gen 4", "rows": [], "columns": [], "table": null, "matched": {"Ring": "Ring pass"},
  "meant": ["*driver_version"], "accepted": {"governor": "it is the same"}, "remarks": ["after the driver"],
  "references": [{"name": "n", "source": "s", "value": 9.5, "unit": "%", "at": "May"}],
  "asked": {"rows": "firmware/board", "columns": "level", "case": "Ring pass"}})");

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  fuzz::Bytes bytes(data, size);
  const bool is_near_one = bytes.take() % 2 == 0;
  const std::string text =
      is_near_one ? fuzz::changed(kDocument, bytes).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace)
                  : std::string(reinterpret_cast<const char*>(data), size).substr(1);
  if (const auto order = store::besideDocumentFrom(text, "fuzzed")) {
    for (const core::Reference& one : order->references) demand(std::isfinite(one.value));
    nlohmann::ordered_json out;
    store::addOrder(out, *order);
  } else {
    demand(!order.error().what.empty());
  }
  if (const auto reference = store::referenceFrom(text)) demand(std::isfinite(reference->value));
  if (const auto span = store::daySpanOf(text)) demand(span->from_ms != span->until_ms);
  return 0;
}
