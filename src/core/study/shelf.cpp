#include "core/study/shelf.h"

#include <algorithm>
#include <vector>

namespace core {
namespace {

constexpr const char* kProbe = "iron-lever-probe";
constexpr double kSceneSeconds = 10;
constexpr double kStartSeconds = 1;  // until a program draws, or its buffers are filled

ShelfItem scene(const std::string& preset) {
  ShelfItem item{{}, "processor", "drawn by the processor, all its threads", kSceneSeconds + kStartSeconds};
  item.a_case.workload = "Dome scene";
  item.a_case.preset = preset;
  item.a_case.command = {kProbe, "scene", "--size", preset, "--seconds", "10", "--out", "{log}"};
  return item;
}

ShelfItem drawing(const std::string& load, const std::string& size, const std::string& loads,
                  const std::string& about) {
  ShelfItem item{{}, loads, about, kSceneSeconds + kStartSeconds};
  item.a_case.workload = "Dome on the device";
  item.a_case.preset = load + ", " + size;
  item.a_case.command = {kProbe, "draw", "--load", load, "--size", size, "--seconds", "10", "--out", "{log}"};
  return item;
}

// A number out of the probe's own measurement: work made for measuring.
ShelfItem measurement(const std::string& name, const std::string& preset, const Command& command,
                      const std::string& field, const Metric& metric) {
  ShelfItem item;
  item.a_case.workload = name;
  item.a_case.preset = preset;
  item.a_case.command = command;
  item.a_case.source = ResultSource::JsonField;
  item.a_case.field = field + ".median";
  item.a_case.metric = metric;
  item.a_case.is_synthetic = true;
  return item;
}

ShelfItem described(ShelfItem item, const std::string& loads, const std::string& about, double seconds) {
  item.loads = loads;
  item.about = about;
  item.pass_seconds = seconds;
  return item;
}

Metric rate(const std::string& name, const std::string& unit) { return {name, unit, Direction::HigherIsBetter}; }

std::vector<ShelfItem> makeShipped() {
  std::vector<ShelfItem> shelf{scene("1k"), scene("2k"), scene("4k")};
  const Metric time{"time", "s", Direction::LowerIsBetter};
  const Metric read = rate("read rate", "GB/s");
  shelf.push_back(described(
      measurement("Fixed work", "", {kProbe, "compute", "--threads", "0", "--million-steps", "400"}, "seconds", time),
      "processor", "whole numbers, shared among all threads", 5));
  shelf.push_back(
      described(measurement("Fixed work", "one thread", {kProbe, "compute", "--threads", "1", "--million-steps", "400"},
                            "seconds", time),
                "one core", "whole numbers, on one thread", 5));
  shelf.push_back(described(measurement("Memory sweep", "", {kProbe, "memory", "--threads", "0"}, "read_GBps", read),
                            "memory", "reads what no cache holds, all threads", 5));
  shelf.push_back(
      described(measurement("Memory sweep", "one thread", {kProbe, "memory", "--threads", "1"}, "read_GBps", read),
                "memory, one core", "reads what no cache holds, on one thread", 5));
  for (const char* size : {"1k", "2k", "4k"})
    shelf.push_back(drawing("shading", size, "graphics device", "drawn by the graphics device"));
  shelf.push_back(drawing("textures", "2k", "graphics link", "pictures that go over the link"));
  shelf.push_back(drawing("draws", "2k", "processor and driver", "very many small objects"));
  shelf.push_back(
      described(measurement("Copy to the device", "", {kProbe, "copy"}, "to_device_GBps", rate("copy rate", "GB/s")),
                "graphics link", "copies to the graphics device", 5));
  shelf.push_back(described(measurement("Drive sweep", "", {kProbe, "storage"}, "read_GBps", rate("read rate", "GB/s")),
                            "drive", "reads a file of its own from the drive", 5));
  return shelf;
}

}  // namespace

std::span<const ShelfItem> shippedWorkloads() {
  static const std::vector<ShelfItem> shelf = makeShipped();
  return shelf;
}

bool hasWorkload(const Study& study, const ShelfItem& item) {
  return std::any_of(study.cases.begin(), study.cases.end(),
                     [&](const Case& one) { return one.title() == item.a_case.title(); });
}

Study withWorkload(Study study, const ShelfItem& item, bool as_control) {
  if (hasWorkload(study, item)) {
    std::erase_if(study.cases, [&](const Case& one) { return one.title() == item.a_case.title(); });
  } else {
    // A case that nobody has said anything about yet gives way.
    std::erase_if(study.cases, [](const Case& one) { return one == Case(); });
    study.cases.push_back(item.a_case);
    study.cases.back().is_control = as_control;
  }
  if (const auto minutes = knownPassMinutes(study)) study.plan.guess.visit_pass_minutes = *minutes;
  return study;
}

std::optional<double> knownPassMinutes(const Study& study) {
  constexpr double kSecondsAMinute = 60;
  double seconds = 0;
  for (const Case& one : study.cases) {
    const auto shelf = shippedWorkloads();
    const auto known = std::find_if(shelf.begin(), shelf.end(),
                                    [&](const ShelfItem& item) { return item.a_case.title() == one.title(); });
    if (known == shelf.end()) return std::nullopt;
    seconds += known->pass_seconds;
  }
  if (study.cases.empty()) return std::nullopt;
  return seconds / kSecondsAMinute;
}

}  // namespace core
