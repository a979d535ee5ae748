#include <algorithm>

#include "store/json/case_fields.h"
#include "store/json/design_parts.h"
#include "store/json/field_table.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using core::Shape;
using json = DesignJson;

constexpr Words<Shape, 4> kShapes{
    {{"pair", Shape::Pair}, {"ladder", Shape::Ladder}, {"crossed", Shape::Crossed}, {"chain", Shape::Chain}}};

std::string at(const std::string& list, std::size_t place) { return list + "[" + std::to_string(place) + "]"; }

void fail(std::optional<Error>& error, ErrorKind kind, std::string what, std::string where, std::string remedy) {
  if (!error) error = Error{kind, std::move(what), std::move(where), std::move(remedy)};
}

// A value may be written as the number that it is.
constexpr auto kReadingFields = []<class Table>(Table& table, auto& reading) {
  table.required("fact", reading.fact);
  if constexpr (Table::kReads)
    if (const json* value = table.fields().find("value"); value != nullptr && value->is_number()) {
      reading.value = value->dump();
      return;
    }
  table.required("value", reading.value);
};

constexpr auto kPriceFields = [](auto& table, auto& price) {
  table.required("amount", price.amount);
  table.required("currency", price.currency);
};

constexpr auto kLevelFields = [](auto& table, auto& level) {
  table.required("name", level.name);
  table.unusual("resource", level.resource);
  table.unusual("prefix", level.prefix);
  table.unusual("environment", level.environment);
  table.unusual("set_command", level.set_command);
  table.unusualPart("without", kWithoutFields, level.without);
  table.unusual("writes", level.writes);
  table.unusual("menu_path", level.menu_path);
  table.unusual("checklist", level.checklist);
  table.unusualPart("price", kPriceFields, level.price);
  table.unusualPart("reads", kReadingFields, level.reads);
};

std::optional<std::size_t> levelCalled(const core::Variable& variable, const std::string& name) {
  const auto& levels = variable.levels;
  const auto found =
      std::find_if(levels.begin(), levels.end(), [&](const core::Level& level) { return level.name == name; });
  return found == levels.end() ? std::nullopt : std::optional(static_cast<std::size_t>(found - levels.begin()));
}

void setBaseline(Fields& fields, const std::string& name, core::Variable& variable) {
  if (name.empty()) return;
  if (const auto level = levelCalled(variable, name))
    variable.baseline = *level;
  else
    fields.fail(ErrorKind::OutOfRange, "no level is called '" + name + "'", fields.path("baseline"),
                "Use the name of one of the levels");
}

constexpr auto kVariableFields = []<class Table>(Table& table, auto& variable) {
  table.required("name", variable.name);
  table.unusual("kind", variable.kind);
  table.unusual("device", variable.device);
  table.unusual("resource_unit", variable.resource_unit);
  table.unusual("is_group", variable.is_group);
  table.unusual("fields", variable.fields);
  table.unusual("flip_minutes", variable.flip_minutes);
  table.list("levels", kLevelFields, variable.levels, "List at least two");
  std::string baseline = variable.baseline < variable.levels.size() ? variable.levels[variable.baseline].name : "";
  table.unusual("baseline", baseline);
  if constexpr (Table::kReads) setBaseline(table.fields(), baseline, variable);
};

/// A configuration as a design names it: the level of each variable.
struct NamedLevels {
  std::string name;
  std::vector<std::pair<std::string, std::string>> levels;
};
constexpr auto kConfigurationFields = [](auto& table, auto& configuration) {
  table.unusual("name", configuration.name);
  table.usual("levels", configuration.levels);
};

core::Configuration readConfiguration(const json& object, const core::Study& study, const std::string& where,
                                      std::optional<Error>& error) {
  NamedLevels named;
  readFields(object, where, error, kConfigurationFields, named);
  core::Configuration configuration{named.name, {}};
  configuration.levels.resize(study.variables.size());
  std::vector<bool> is_named(study.variables.size(), false);
  for (const auto& [name, level_name] : named.levels) {
    const auto found = std::find_if(study.variables.begin(), study.variables.end(),
                                    [&name = name](const core::Variable& one) { return one.name == name; });
    if (found == study.variables.end()) {
      fail(error, ErrorKind::OutOfRange, "no variable is called '" + name + "'", where + ".levels",
           "Use the name of one of the variables");
      continue;
    }
    const auto place = static_cast<std::size_t>(found - study.variables.begin());
    const auto level = levelCalled(*found, level_name);
    if (!level)
      fail(error, ErrorKind::OutOfRange, "'" + name + "' has no level called '" + level_name + "'", where + ".levels",
           "Use the name of one of its levels");
    configuration.levels[place] = level.value_or(0);
    is_named[place] = true;
  }
  for (std::size_t i = 0; i < is_named.size(); ++i)
    if (!is_named[i])
      fail(error, ErrorKind::Missing, "the level of '" + study.variables[i].name + "' is missing", where + ".levels",
           "Name one level of each variable");
  return configuration;
}

// The baseline of a pair comes first, wherever a person listed it.
void putBaselineFirst(core::Variable& variable) {
  if (variable.baseline >= variable.levels.size()) return;
  std::swap(variable.levels[0], variable.levels[variable.baseline]);
  variable.baseline = 0;
}

void readLongForm(Fields& fields, const json& variables, core::Study& study, std::optional<Error>& error) {
  study.variables.clear();
  if (!variables.is_array() || variables.empty()) {
    fail(error, ErrorKind::Malformed, "a list of variables is expected here", "variables", "List at least one");
    study.variables.resize(1);
    return;
  }
  for (std::size_t i = 0; i < variables.size(); ++i)
    readFields(variables[i], at("variables", i), error, kVariableFields, study.variables.emplace_back());
  study.shape = study.variables.size() > 1           ? Shape::Crossed
                : study.variable().levels.size() > 2 ? Shape::Ladder
                                                     : Shape::Pair;
  fields.choice("shape", kShapes, study.shape);
  if (study.shape == Shape::Pair) putBaselineFirst(study.variable());
  const json* configurations = fields.find("configurations");
  if (configurations == nullptr) return;
  if (!configurations->is_array() || configurations->empty())
    return fail(error, ErrorKind::Malformed, "a list of configurations is expected here", "configurations",
                "List at least two");
  for (std::size_t i = 0; i < configurations->size(); ++i)
    study.configurations.push_back(readConfiguration((*configurations)[i], study, at("configurations", i), error));
}

void readShortForm(Fields& fields, core::Study& study, std::optional<Error>& error) {
  core::Variable& variable = study.variable();
  fields.required("variable", variable.name);
  fields.optional("kind", variable.kind);
  fields.optional("device", variable.device);
  fields.optional("fields", variable.fields);
  const json* levels = fields.find("levels");
  if (levels && levels->is_array() && levels->size() == 2) {
    for (std::size_t i = 0; i < 2; ++i)
      readFields((*levels)[i], at("levels", i), error, kLevelFields, variable.levels[i]);
  } else {
    fail(error, ErrorKind::Malformed, "a list of two levels is expected here, baseline first", "levels",
         "List both levels; for more list them under variables");
  }
}

}  // namespace

void readVariables(const DesignJson& object, core::Study& study, std::optional<Error>& error) {
  Fields fields(object, "", error);
  const json* variables = fields.find("variables");
  if (variables == nullptr) return readShortForm(fields, study, error);
  for (const char* name : {"variable", "kind", "device", "fields", "levels"})
    if (fields.find(name) != nullptr)
      fail(error, ErrorKind::Malformed, std::string("'") + name + "' is said of each variable where several are listed",
           name, "Move it into variables");
  readLongForm(fields, *variables, study, error);
}

void addVariables(DesignJson& object, const core::Study& study) {
  object["shape"] = core::shapeName(study.shape);
  object["variables"] = json::array();
  for (const core::Variable& variable : study.variables)
    object["variables"].push_back(writeFields(kVariableFields, variable));
  for (const core::Configuration& one : study.configurations) {
    NamedLevels named{one.name, {}};
    for (std::size_t i = 0; i < one.levels.size(); ++i)
      named.levels.emplace_back(study.variables[i].name, study.variables[i].levels[one.levels[i]].name);
    object["configurations"].push_back(writeFields(kConfigurationFields, named));
  }
}

}  // namespace store
