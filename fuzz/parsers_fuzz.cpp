// Every parser of bytes from outside, under libFuzzer with the address and undefined-behaviour sanitizers.
// The first byte chooses the parser. fuzz/run.sh builds and runs it.
#include <algorithm>
#include <cstdint>
#include <cstdlib>
#include <span>
#include <string_view>

#include "bench/pci_config.h"
#include "bench/smbios.h"
#include "bench/sysfs_text.h"
#include "core/device_path.h"
#include "recorder/frame_ring.h"
#include "store/frame_log.h"
#include "store/log_rows.h"
#include "store/log_shape.h"

namespace {

void demand(bool holds) {
  if (!holds) std::abort();
}

void smbios(std::string_view bytes) {
  const auto tables = bench::parseSmbios(bytes);
  if (!tables) return;
  demand(tables->modules.size() <= bytes.size() / 4);
  for (const bench::MemoryModule& module : tables->modules) demand(module.rated_mts >= 0 && module.configured_mts >= 0);
}

void pciConfig(std::string_view bytes) {
  const auto express = bench::parsePciConfig(bytes);
  if (!express) return;
  demand(bytes.size() >= 256 && express->payload_bytes >= 128 && express->payload_bytes <= 16384);
  demand(!express->target_gts || (*express->target_gts >= 2.5 && *express->target_gts <= 64));
}

void resource(std::string_view bytes) {
  const auto lines = bench::resourceLines(bytes);
  if (!lines) return;
  for (const bench::ResourceLine& line : *lines) demand(line.isUsed() || line.size() == 0);
}

void sysfsText(std::string_view bytes) {
  if (const auto numbers = bench::numberList(bytes)) demand(numbers->size() <= 65536);
  if (const auto speed = bench::linkSpeed(bytes)) demand(speed->ends_with(" GT/s"));
  (void)core::gtsOf(std::string(bytes));
  (void)bench::chosen(bytes);
  (void)bench::counterLines(bytes);
  (void)bench::linkLevels(bytes);
  (void)bench::meminfoBytes(bytes, "MemTotal");
  (void)bench::isoDate(bytes);
  (void)bench::maskedCommandLine(bytes);
  (void)bench::cpuinfoField(bytes, "flags");
  (void)bench::wholeNumber(bytes);
  (void)bench::hexNumber(bytes);
}

void frameRing(std::string_view bytes) {
  const std::uint64_t from = bytes.empty() ? 0 : static_cast<unsigned char>(bytes.front());
  const auto content = recorder::parseRing(std::as_bytes(std::span(bytes)), from);
  if (!content) return;
  demand(content->at_ns.size() + content->lost == content->written - from);
  demand(std::is_sorted(content->at_ns.begin(), content->at_ns.end()));
}

void frameLog(std::string_view bytes) {
  const auto frames = store::parseFrameLog(bytes, "frame_ms", "log");
  if (!frames) return;
  for (const double frame_ms : *frames) demand(frame_ms > 0);
}

// However many rows are read at once, each number is the one that reading its line alone gives.
void demandTheSameLineByLine(std::string_view bytes, const store::LogShape& shape, const store::ImportedRun& run) {
  const auto lines = store::dataLines(bytes);
  const std::size_t header = shape.has_header ? 1 : 0;
  demand(lines.size() == run.frame_ms.size() + header);
  for (std::size_t row = 0; row < run.frame_ms.size(); ++row) {
    const auto fields = store::fieldsOf(lines[row + header].text, shape.delimiter);
    const auto number = store::numberIn(fields.at(shape.time.column), shape.has_decimal_comma);
    demand(number && *number * shape.time.ms_per_unit == run.frame_ms[row]);
  }
}

void logShape(std::string_view bytes) {
  const auto shape = store::detectShape(bytes, "log");
  if (!shape) return;
  demand(shape->time.column < shape->columns.size() && shape->time.ms_per_unit > 0);
  const auto runs = store::importLog(bytes, *shape, "log");
  if (!runs) return;
  demand(!runs->empty());
  for (const store::ImportedRun& run : *runs) {
    demand(!run.frame_ms.empty());
    for (const double frame_ms : run.frame_ms) demand(frame_ms > 0);
    for (const auto& values : run.others) demand(values.size() == run.frame_ms.size());
  }
  const bool is_of_durations = shape->time.meaning == store::TimeMeaning::Duration && !shape->run_column;
  if (is_of_durations && !shape->is_json_lines) demandTheSameLineByLine(bytes, *shape, runs->front());
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size == 0) return 0;
  const std::string_view bytes(reinterpret_cast<const char*>(data) + 1, size - 1);
  switch (data[0] % 7) {
    case 0: smbios(bytes); break;
    case 1: pciConfig(bytes); break;
    case 2: resource(bytes); break;
    case 3: sysfsText(bytes); break;
    case 4: frameLog(bytes); break;
    case 6: frameRing(bytes); break;
    default: logShape(bytes); break;
  }
  return 0;
}
