// Every parser of bytes from outside, under libFuzzer with the address and undefined-behaviour sanitizers.
// The first byte chooses the parser. fuzz/run.sh builds and runs it.
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <cstdlib>
#include <cstring>
#include <span>
#include <string_view>

#include "bench/pci_config.h"
#include "bench/smbios.h"
#include "bench/sysfs_text.h"
#include "core/machine/device_path.h"
#include "core/study/schedule.h"
#include "core/values/shown_text.h"
#include "core/values/typed_value.h"
#include "fuzz/bytes.h"
#include "recorder/frame_ring.h"
#include "store/json/capture_json.h"
#include "store/json/measurement_json.h"
#include "store/json/null_record_json.h"
#include "store/json/pass_json.h"
#include "store/json/samples_json.h"
#include "store/json/study_json.h"
#include "store/logs/frame_log.h"
#include "store/logs/json_result.h"
#include "store/logs/log_rows.h"
#include "store/logs/log_shape.h"
#include "store/study/act_row.h"
#include "store/study/frame_codec.h"

using fuzz::demand;

namespace {

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
  (void)bench::commandLineTaken(bytes);
  (void)bench::cpuinfoField(bytes, "flags");
  (void)bench::wholeNumber(bytes);
  (void)bench::hexNumber(bytes);
}

void frameRing(std::string_view bytes) {
  const std::uint64_t from = bytes.empty() ? 0 : static_cast<unsigned char>(bytes.front());
  const auto content = recorder::parseRing(std::as_bytes(std::span(bytes)), from);
  if (!content) return;
  demand(content->first >= from && content->first + content->frames.size() == content->written);
  demand(std::is_sorted(content->frames.begin(), content->frames.end(),
                        [](const auto& a, const auto& b) { return a.handed_over < b.handed_over; }));
}

void frameLog(std::string_view bytes) {
  const auto frames = store::parseFrameLog(bytes, "frame_ms", "log");
  if (!frames) return;
  for (const double frame_ms : *frames) demand(frame_ms > 0);
}

// A design that is read is written as it was read, and within its ranges it makes a plan.
void design(std::string_view bytes) {
  const auto study = store::studyFromJson(bytes, "design");
  if (!study) return;
  const auto again = store::studyFromJson(store::studyToJson(*study), "design");
  demand(again.ok() || again.error().kind != core::ErrorKind::Malformed);
  if (core::numbersOutOfRange(*study).empty()) demand(core::scheduleOf(*study).size() <= 200'000);
}

void capture(std::string_view bytes) {
  const auto read = store::captureFromJson(bytes, "capture");
  if (!read) return;
  demand(std::is_sorted(read->facts.begin(), read->facts.end(),
                        [](const core::Fact& a, const core::Fact& b) { return a.name < b.name; }));
  demand(store::captureFromJson(store::captureToJson(*read), "capture").ok());
}

// What unpacks has the length that was noted, and packs to the same numbers.
void frameCodec(std::string_view bytes) {
  const std::int64_t count = bytes.empty() ? 0 : static_cast<unsigned char>(bytes.front()) * 8;
  const auto frames = store::unpackFrames(bytes.substr(std::min<std::size_t>(1, bytes.size())), count);
  if (!frames) return;
  demand(static_cast<std::int64_t>(frames->size()) == count);
  const auto again = store::unpackFrames(store::packFrames(*frames), count);
  demand(again.ok() && std::memcmp(again->data(), frames->data(), frames->size() * sizeof(double)) == 0);
}

void jsonResult(std::string_view bytes) {
  if (const auto number = store::numberFromJson(bytes, "result.seconds")) demand(std::isfinite(*number));
  if (const auto readings = store::readingsFromJson(bytes))
    for (const core::Reading& reading : *readings)
      for (const double value : reading.measured.values) demand(std::isfinite(value) && value > 0);
}

// What a study's rows hold: samples, presentations, typed results, null studies, measurements, acts.
void rowJson(std::string_view bytes) {
  if (const auto samples = store::samplesFromJson(bytes)) {
    for (const core::Channel& channel : samples->channels) demand(channel.values.size() == samples->at_s.size());
    demand(store::samplesFromJson(store::samplesToJson(*samples)).ok());
  }
  const std::string text(bytes);
  (void)store::presentationFromJson(text);
  if (const auto typed = store::typedFromJson(text)) (void)store::typedToJson(typed);
  (void)store::nullRecordFromJson(text);
  (void)store::measurementFromJson(bytes, "file");
  for (const char* kind : {"explained", "predicted", "null_study", "felt", "stable", "flip"})
    for (const store::ActRow& row : {store::ActRow{kind, "1", text}, {kind, text, ""}})
      if (const auto act = store::actOf(row)) demand(store::actOf(store::rowOf(*act)).has_value());
  if (const auto typed = core::parseTyped(bytes, core::DecimalSign::Unknown)) demand(std::isfinite(typed->value));
}

// Whatever is shown has no sign that moves a cursor, and is UTF-8 that shows as it is.
void shownText(std::string_view bytes) {
  const std::string shown = core::shownText(bytes);
  demand(core::shownText(shown) == shown);
  demand(std::none_of(shown.begin(), shown.end(), [](char c) { return c == '\x1b' || c == '\r' || c == '\x7f'; }));
  demand(core::shownWord(bytes).size() + 1 > 1);
  demand(core::cutText(bytes, 5).size() <= 5);
}

// However many rows are read at once, each number is the one that reading its line alone gives.
void demandTheSameLineByLine(std::string_view bytes, const store::LogShape& shape, const store::ImportedRun& run) {
  const auto lines = store::dataLines(bytes);
  const std::size_t header = shape.lines_before + (shape.has_header ? 1 : 0);
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
  using Parser = void (*)(std::string_view);
  constexpr std::array<Parser, 12> kParsers{smbios,    pciConfig, resource, sysfsText,  frameLog,   logShape,
                                            frameRing, design,    capture,  frameCodec, jsonResult, rowJson};
  if (size == 0) return 0;
  const std::string_view bytes(reinterpret_cast<const char*>(data) + 1, size - 1);
  const std::size_t which = data[0] % (kParsers.size() + 1);
  which < kParsers.size() ? kParsers[which](bytes) : shownText(bytes);
  return 0;
}
