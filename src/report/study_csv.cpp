#include "report/study_csv.h"

#include <algorithm>
#include <map>

#include <fmt/format.h>

#include "core/study/schedule.h"
#include "core/values/utc_text.h"
#include "report/csv.h"

namespace report {
namespace {

using nlohmann::ordered_json;
using Cells = std::vector<std::string>;

/// Columns as they are met, each once.
class Columns {
 public:
  std::size_t of(const std::string& name) {
    const auto [known, is_new] = places_.emplace(name, names_.size());
    if (is_new) names_.push_back(name);
    return known->second;
  }
  [[nodiscard]] const Cells& names() const { return names_; }

 private:
  std::map<std::string, std::size_t> places_;
  Cells names_;
};

/// Rows whose columns are known only once all of them are.
class Table {
 public:
  void begin() { rows_.emplace_back(); }
  void put(const std::string& column, std::string cell) {
    const std::size_t at = columns_.of(column);
    Cells& row = rows_.back();
    if (row.size() <= at) row.resize(at + 1);
    row[at] = std::move(cell);
  }
  [[nodiscard]] std::string text() const {
    Csv csv(columns_.names());
    for (Cells row : rows_) {
      row.resize(columns_.names().size());
      csv.row(row);
    }
    return csv.text();
  }

 private:
  Columns columns_;
  std::vector<Cells> rows_;
};

std::string withUnit(const std::string& name, const std::string& unit) {
  return unit.empty() ? name : name + ", " + unit;
}

std::string cellOf(const ordered_json& value) {
  if (value.is_null()) return {};
  if (value.is_string()) return value.get<std::string>();
  if (value.is_number_float()) return Csv::number(value.get<double>());
  if (!value.is_array()) return value.dump();
  std::string cell;
  for (const ordered_json& one : value) cell += (cell.empty() ? "" : "; ") + cellOf(one);
  return cell;
}

void flatten(Table& table, const std::string& prefix, const ordered_json& object) {
  for (const auto& [key, value] : object.items()) {
    const std::string name = prefix.empty() ? key : prefix + "." + key;
    if (value.is_object())
      flatten(table, name, value);
    else
      table.put(name, cellOf(value));
  }
}

void putMeasured(Table& table, const core::Pass& pass, const core::Case& a_case) {
  for (const core::ChannelSummary& channel : pass.samples)
    table.put(withUnit(channel.name, channel.unit), Csv::number(channel.median));
  for (std::size_t i = 0; i < std::min(a_case.further.size(), pass.further.size()); ++i)
    table.put(withUnit(a_case.further[i].name, a_case.further[i].metric.unit), Csv::number(pass.further[i].value));
}

}  // namespace

std::string passesCsv(const core::Study& study, const core::Record& record, const core::Judgement& judgement,
                      const std::string& name) {
  const std::vector<core::Slot> schedule = core::scheduleOf(study);
  Table table;
  for (const core::Pass& pass : record.passes) {
    if (pass.slot >= schedule.size()) continue;
    const core::Slot& slot = schedule[pass.slot];
    const core::Case& a_case = study.cases[slot.case_index];
    const bool is_sealed = judgement.isSealed(a_case);
    const auto why_not = judgement.findings.not_counted.find(pass.id);
    const bool is_counted = why_not == judgement.findings.not_counted.end();
    table.begin();
    table.put("study", name);
    table.put("case", a_case.title());
    table.put("configuration", study.nameOf(slot.configuration));
    table.put("visit", fmt::format("{}", slot.visit));
    table.put("round", fmt::format("{}", slot.round));
    table.put("pass", fmt::format("{}", pass.id));
    table.put("at", pass.started_ms > 0 ? core::utcText(pass.started_ms) : "");
    table.put("value", is_sealed ? "" : Csv::number(pass.value));
    table.put("unit", a_case.metric.unit);
    table.put("counted", is_counted ? "true" : "false");
    table.put("why_not", is_counted ? "" : why_not->second);
    table.put("origin", pass.origin);
    if (!is_sealed) putMeasured(table, pass, a_case);
    if (record.clock.isCompared() && pass.started_ms > 0)
      table.put("at the desk", core::utcText(record.clock.atDesk(pass.started_ms)));
  }
  return table.text();
}

std::string findingsCsv(const ordered_json& findings, const std::string& name) {
  Table table;
  for (const auto& [kind, list] : {std::pair{"case", "cases"}, {"contrast", "contrasts"}})
    for (const ordered_json& one : findings.value(list, ordered_json::array())) {
      table.begin();
      table.put("study", name);
      table.put("finding", kind);
      flatten(table, {}, one);
    }
  return table.text();
}

}  // namespace report
