#include "bench/fact_reader.h"

#include <fmt/format.h>

#include "bench/sysfs_text.h"

namespace bench {
namespace {

std::string lastPart(const std::string& path) { return path.substr(path.rfind('/') + 1); }

}  // namespace

core::FactStatus statusOf(const core::Error& error) {
  switch (error.kind) {
    case core::ErrorKind::Missing: return core::FactStatus::Absent;
    case core::ErrorKind::Denied: return core::FactStatus::Denied;
    default: return core::FactStatus::Unreadable;
  }
}

void FactReader::read(const std::string& name, const std::string& path, const Parse& parse, const Keep& keep) {
  auto bytes = bench_.readFile(path);
  core::Fact fact;
  fact.name = name;
  fact.kind = keep.kind;
  fact.unit = keep.unit;
  fact.group = keep.group;
  fact.source = path;
  if (!bytes) {
    fact.status = statusOf(bytes.error());
    if (fact.status == core::FactStatus::Absent) return;
    fact.why = bytes.error().sentence();
  } else if (auto reading = parse(withoutNewline(*std::move(bytes)))) {
    fact.value = std::move(reading->value);
    fact.number = reading->number;
  } else {
    fact.status = core::FactStatus::Unreadable;
    fact.why = path + ": the text is not what it should be. Report it with the kernel's version.";
  }
  capture_.put(std::move(fact));
}

void FactReader::text(const std::string& name, const std::string& path, const Keep& keep) {
  read(
      name, path,
      [](const std::string& text) {
        return std::optional(Reading{trimmed(text), std::nullopt});
      },
      keep);
}

void FactReader::number(const std::string& name, const std::string& path, const Keep& keep, double divisor) {
  read(
      name, path,
      [divisor](const std::string& text) -> std::optional<Reading> {
        const auto whole = wholeNumber(text);
        if (!whole) return std::nullopt;
        const double value = static_cast<double>(*whole) / divisor;
        return Reading{fmt::format("{:.15g}", value), value};
      },
      keep);
}

void FactReader::derived(const std::string& name, std::string value, std::optional<double> number,
                         const std::string& unit, const std::string& source, core::FactKind kind) {
  core::Fact fact;
  fact.name = name;
  fact.kind = kind;
  fact.value = std::move(value);
  fact.number = number;
  fact.unit = unit;
  fact.source = source;
  capture_.put(std::move(fact));
}

void FactReader::missing(const std::string& name, const core::Error& error, core::FactKind kind) {
  core::Fact fact;
  fact.name = name;
  fact.kind = kind;
  fact.status = statusOf(error);
  fact.source = error.where;
  fact.why = error.sentence();
  capture_.put(std::move(fact));
}

std::vector<std::string> FactReader::list(const std::string& path) const {
  auto names = bench_.listFolder(path);
  return names ? *std::move(names) : std::vector<std::string>();
}

std::string FactReader::linkName(const std::string& path) const {
  const auto real = bench_.realPath(path);
  return real && *real != path ? lastPart(*real) : "";
}

std::string FactReader::raw(const std::string& path) const {
  auto bytes = bench_.readFile(path);
  return bytes ? withoutNewline(*std::move(bytes)) : "";
}

}  // namespace bench
