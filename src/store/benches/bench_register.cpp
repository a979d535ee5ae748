#include "store/benches/bench_register.h"

#include <algorithm>
#include <filesystem>

#include <nlohmann/json.hpp>

#include "core/machine/comparison.h"
#include "store/benches/register_file.h"
#include "store/json/capture_json.h"
#include "store/json/json_text.h"
#include "store/json/null_record_json.h"
#include "store/json/study_json.h"
#include "store/study/frame_codec.h"
#include "store/study/schema.h"

namespace store {
namespace {

using core::Status;

// Step i leads from schema i to i + 1. A step that has shipped is never edited; a change is a new step.
constexpr const char* kRegisterSteps[] = {
    R"sql(
      CREATE TABLE bench_capture (
        id INTEGER PRIMARY KEY,
        bench TEXT NOT NULL,
        from_ms INTEGER NOT NULL,
        until_ms INTEGER NOT NULL,
        facts BLOB NOT NULL
      );
      CREATE INDEX bench_capture_bench ON bench_capture (bench, id);
      CREATE TABLE menu_path (
        bench TEXT NOT NULL,
        kind TEXT NOT NULL,
        level TEXT NOT NULL,
        path TEXT NOT NULL,
        PRIMARY KEY (bench, kind, level)
      );
      CREATE TABLE noise (
        id INTEGER PRIMARY KEY,
        bench TEXT NOT NULL,
        case_title TEXT NOT NULL,
        at_ms INTEGER NOT NULL,
        visits INTEGER NOT NULL,
        visit_sd REAL NOT NULL,
        pass_sd REAL,
        pass_df INTEGER NOT NULL,
        passes_per_visit REAL NOT NULL,
        same_passes INTEGER,
        flip_sd REAL NOT NULL,
        flip_df REAL NOT NULL
      );
    )sql",
    "ALTER TABLE noise ADD COLUMN visit_values TEXT NOT NULL DEFAULT ''",
    R"(CREATE TABLE log_recipe (bench TEXT NOT NULL, columns TEXT NOT NULL, shape TEXT NOT NULL,
       PRIMARY KEY (bench, columns)))",
    R"(CREATE TABLE workload (bench TEXT NOT NULL, case_title TEXT NOT NULL, at_ms INTEGER NOT NULL, design TEXT NOT NULL,
       PRIMARY KEY (bench, case_title)))",
    R"(ALTER TABLE noise ADD COLUMN measured_key TEXT NOT NULL DEFAULT '';
       ALTER TABLE noise ADD COLUMN flip_key TEXT NOT NULL DEFAULT '')",
    R"(CREATE TABLE repeatability (bench TEXT NOT NULL, study TEXT NOT NULL, case_title TEXT NOT NULL,
       passes INTEGER NOT NULL, odd INTEGER NOT NULL, pass_sd REAL, pass_df INTEGER NOT NULL,
       PRIMARY KEY (bench, study, case_title)))",
    R"(CREATE TABLE checklist (bench TEXT NOT NULL, kind TEXT NOT NULL, level TEXT NOT NULL, points TEXT NOT NULL,
       PRIMARY KEY (bench, kind, level));
       CREATE TABLE paper (id INTEGER PRIMARY KEY, bench TEXT NOT NULL, kind TEXT NOT NULL, text TEXT NOT NULL,
       until TEXT NOT NULL))",
    R"(CREATE TABLE also_called (was TEXT PRIMARY KEY, now TEXT NOT NULL);
       CREATE TABLE settled_question (question TEXT PRIMARY KEY))",
};

// Between two sights of one bench nothing is declared: whatever differs is worth an entry of its own.
bool isUnlike(const core::Capture& before, const core::Capture& now) {
  return !core::compareCaptures(before, now, {core::findVariableKind("other"), "", {}, "before", "now"})
              .must_not.empty();
}

// A log is known by its columns; what a person had to say about them is the recipe.
std::string columnsKey(const LogShape& shape) {
  std::string key;
  for (const std::string& column : shape.columns) key += column + '\n';
  return key;
}

std::string recipeToJson(const TimeReading& time) {
  return nlohmann::json{{"time_column", time.column},
                        {"is_stamp", time.meaning == TimeMeaning::TimeStamp},
                        {"ms_per_unit", time.ms_per_unit}}
      .dump();
}

// The rest of the shape is what was found in the log at hand.
std::optional<LogShape> recipeFromJson(const std::string& text, const LogShape& found) {
  try {
    const nlohmann::json recipe = nlohmann::json::parse(text);
    LogShape shape = found;
    shape.time.column = static_cast<std::size_t>(wholeNumberOf(recipe.at("time_column")));
    shape.time.meaning = recipe.at("is_stamp").get<bool>() ? TimeMeaning::TimeStamp : TimeMeaning::Duration;
    shape.time.ms_per_unit = recipe.at("ms_per_unit").get<double>();
    return shape.time.column < shape.columns.size() ? std::optional(shape) : std::nullopt;
  } catch (const std::exception&) {
    return std::nullopt;
  }
}

}  // namespace

core::Result<Database> BenchRegister::open() const { return openRegister(path_); }

core::Result<BenchRegister::NamedBench> BenchRegister::open(const std::string& bench) const {
  auto database = open();
  if (!database) return database.error();
  auto called = benchNow(*database, bench);
  if (!called) return called.error();
  return NamedBench{*std::move(database), *std::move(called)};
}

core::Result<Database> openRegister(const std::string& path) {
  std::error_code code;
  std::filesystem::create_directories(std::filesystem::path(path).parent_path(), code);
  const bool exists = std::filesystem::exists(path, code);
  auto database = Database::open(path, exists ? Database::Mode::OpenExisting : Database::Mode::CreateNew);
  if (!database) return database;
  if (auto migrated = migrate(*database, kRegisterSteps); !migrated) return migrated.error();
  return database;
}

core::Result<std::vector<BenchRegister::Bench>> BenchRegister::benches() const {
  auto database = open();
  if (!database) return database.error();
  std::vector<Bench> benches;
  auto rows =
      forEachRow(*database,
                 "SELECT bench, count(*), min(from_ms), max(until_ms) FROM bench_capture "
                 "GROUP BY bench ORDER BY bench",
                 [&](const Statement& row) -> Status {
                   benches.push_back({row.text(0), static_cast<int>(row.integer(1)), row.integer(2), row.integer(3)});
                   return core::Done{};
                 });
  if (!rows) return rows.error();
  return benches;
}

core::Result<std::vector<BenchRegister::Entry>> BenchRegister::entries(const std::string& bench) const {
  return captures(bench, "ORDER BY id");
}

core::Result<std::optional<BenchRegister::Entry>> BenchRegister::latest(const std::string& bench) const {
  auto found = captures(bench, "ORDER BY id DESC LIMIT 1");
  if (!found) return found.error();
  return found->empty() ? std::optional<Entry>() : std::optional(std::move(found->front()));
}

core::Result<std::vector<BenchRegister::Entry>> BenchRegister::captures(const std::string& bench,
                                                                        const char* which) const {
  auto at = open(bench);
  if (!at) return at.error();
  auto statement =
      at->database.prepare(std::string("SELECT facts, until_ms FROM bench_capture WHERE bench = ?1 ") + which);
  if (!statement) return statement.error();
  statement->bind(1, std::string_view(at->bench));
  std::vector<Entry> entries;
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return entries;
    const auto text = unpackText(statement->blob(0));
    if (!text) return text.error();
    auto capture = captureFromJson(*text, path_);
    if (!capture) return capture.error();
    entries.push_back({*std::move(capture), statement->integer(1)});
  }
}

Status BenchRegister::add(const std::string& bench, const core::Capture& capture) {
  const auto known = latest(bench);
  if (!known) return known.error();
  auto at = open(bench);
  if (!at) return at.error();
  const bool is_new = !*known || isUnlike((*known)->capture, capture);
  return at->database.inTransaction([&]() -> Status {
    auto statement = at->database.prepare(
        is_new ? "INSERT INTO bench_capture (bench, from_ms, until_ms, facts) VALUES (?1, ?2, ?2, ?3)"
               : "UPDATE bench_capture SET until_ms = max(until_ms, ?2) "
                 "WHERE id = (SELECT max(id) FROM bench_capture WHERE bench = ?1)");
    if (!statement) return statement.error();
    statement->bind(1, std::string_view(at->bench)).bind(2, capture.taken_ms);
    if (is_new) statement->bind(3, Blob{packText(captureToJson(capture))});
    return stepOnce(*statement);
  });
}

core::Result<std::vector<BenchRegister::Noise>> BenchRegister::noise(const std::string& bench) const {
  return noiseWhere(bench,
                    "id IN (SELECT max(id) FROM noise WHERE bench = ?1 "
                    "GROUP BY case_title, visits >= 2, measured_key, flip_key) ORDER BY case_title, id");
}

core::Result<std::vector<BenchRegister::Noise>> BenchRegister::noiseHistory(const std::string& bench) const {
  return noiseWhere(bench, "bench = ?1 ORDER BY at_ms, id");
}

core::Result<std::vector<BenchRegister::Noise>> BenchRegister::noiseWhere(const std::string& bench,
                                                                          const char* which) const {
  auto at = open(bench);
  if (!at) return at.error();
  auto statement = at->database.prepare(
      std::string("SELECT case_title, at_ms, visits, visit_sd, pass_sd, pass_df, passes_per_visit, same_passes, "
                  "flip_sd, flip_df, visit_values, measured_key, flip_key FROM noise WHERE ") +
      which);
  if (!statement) return statement.error();
  statement->bind(1, std::string_view(at->bench));
  std::vector<Noise> all;
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return all;
    Noise one;
    one.measured.title = statement->text(0);
    one.at_ms = statement->integer(1);
    core::NullStudy& noise = one.measured.noise;
    noise.visits = static_cast<int>(statement->integer(2));
    noise.visit_sd = statement->real(3);
    if (!statement->isNull(4)) noise.pass_sd = statement->real(4);
    noise.pass_df = static_cast<int>(statement->integer(5));
    noise.passes_per_visit = statement->real(6);
    if (!statement->isNull(7)) noise.same_passes_everywhere = static_cast<int>(statement->integer(7));
    noise.flip_sd = statement->real(8);
    noise.flip_df = statement->real(9);
    one.measured.visits = visitsFromJson(statement->text(10));
    if (!statement->text(11).empty()) one.measured.key = core::NoiseKey{statement->text(11), statement->text(12)};
    all.push_back(std::move(one));
  }
}

Status BenchRegister::addNoise(const std::string& bench, const std::vector<core::CaseNoise>& measured,
                               std::int64_t at_ms) {
  auto at = open(bench);
  if (!at) return at.error();
  return at->database.inTransaction([&]() -> Status {
    for (const core::CaseNoise& one : measured) {
      auto statement = at->database.prepare(
          "INSERT INTO noise (bench, case_title, at_ms, visits, visit_sd, pass_sd, pass_df, passes_per_visit, "
          "same_passes, flip_sd, flip_df, visit_values, measured_key, flip_key) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, "
          "?8, "
          "?9, ?10, ?11, ?12, ?13, ?14)");
      if (!statement) return statement.error();
      const core::NullStudy& noise = one.noise;
      statement->bind(1, std::string_view(at->bench)).bind(2, std::string_view(one.title)).bind(3, at_ms);
      statement->bind(4, std::int64_t{noise.visits}).bind(5, noise.visit_sd).bind(6, noise.pass_sd);
      statement->bind(7, std::int64_t{noise.pass_df}).bind(8, noise.passes_per_visit);
      if (noise.same_passes_everywhere) statement->bind(9, std::int64_t{*noise.same_passes_everywhere});
      statement->bind(10, noise.flip_sd).bind(11, noise.flip_df);
      const std::string values = visitsToJson(one.visits);
      const core::NoiseKey key = one.key.value_or(core::NoiseKey{});
      statement->bind(12, std::string_view(values)).bind(13, std::string_view(key.measured));
      if (auto done = stepOnce(statement->bind(14, std::string_view(key.flip))); !done) return done;
    }
    return core::Done{};
  });
}

core::Result<std::vector<core::CaseRepeatability>> BenchRegister::repeatability(const std::string& bench) const {
  auto at = open(bench);
  if (!at) return at.error();
  auto statement = at->database.prepare(
      "SELECT case_title, passes, odd, pass_sd, pass_df FROM repeatability WHERE bench = ?1 ORDER BY case_title, "
      "study");
  if (!statement) return statement.error();
  statement->bind(1, std::string_view(at->bench));
  std::vector<core::CaseRepeatability> all;
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return all;
    core::CaseRepeatability one{statement->text(0),
                                static_cast<int>(statement->integer(1)),
                                static_cast<int>(statement->integer(2)),
                                {},
                                static_cast<int>(statement->integer(4))};
    if (!statement->isNull(3)) one.pass_sd = statement->real(3);
    all.push_back(std::move(one));
  }
}

Status BenchRegister::setRepeatability(const std::string& bench, const std::string& study,
                                       const std::vector<core::CaseRepeatability>& cases) {
  auto at = open(bench);
  if (!at) return at.error();
  return at->database.inTransaction([&]() -> Status {
    auto before = at->database.prepare("DELETE FROM repeatability WHERE bench = ?1 AND study = ?2");
    if (!before) return before.error();
    if (auto gone = stepOnce(before->bind(1, std::string_view(at->bench)).bind(2, std::string_view(study))); !gone)
      return gone;
    for (const core::CaseRepeatability& one : cases) {
      auto statement = at->database.prepare(
          "INSERT OR REPLACE INTO repeatability (bench, study, case_title, passes, odd, pass_sd, pass_df) "
          "VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)");
      if (!statement) return statement.error();
      statement->bind(1, std::string_view(at->bench))
          .bind(2, std::string_view(study))
          .bind(3, std::string_view(one.title));
      statement->bind(4, std::int64_t{one.passes}).bind(5, std::int64_t{one.odd}).bind(6, one.pass_sd);
      if (auto done = stepOnce(statement->bind(7, std::int64_t{one.pass_df})); !done) return done;
    }
    return core::Done{};
  });
}

core::Result<std::optional<LogShape>> BenchRegister::logRecipe(const std::string& bench, const LogShape& found) const {
  auto at = open(bench);
  if (!at) return at.error();
  auto statement = at->database.prepare("SELECT shape FROM log_recipe WHERE bench = ?1 AND columns = ?2");
  if (!statement) return statement.error();
  const std::string columns = columnsKey(found);
  const auto row = statement->bind(1, std::string_view(at->bench)).bind(2, std::string_view(columns)).step();
  if (!row) return row.error();
  return *row ? recipeFromJson(statement->text(0), found) : std::optional<LogShape>();
}

Status BenchRegister::setLogRecipe(const std::string& bench, const LogShape& shape) {
  auto at = open(bench);
  if (!at) return at.error();
  return at->database.inTransaction([&]() -> Status {
    auto statement = at->database.prepare(
        "INSERT INTO log_recipe (bench, columns, shape) VALUES (?1, ?2, ?3) "
        "ON CONFLICT (bench, columns) DO UPDATE SET shape = ?3");
    if (!statement) return statement.error();
    const std::string columns = columnsKey(shape);
    const std::string recipe = recipeToJson(shape.time);
    return stepOnce(statement->bind(1, std::string_view(at->bench))
                        .bind(2, std::string_view(columns))
                        .bind(3, std::string_view(recipe)));
  });
}

core::Result<std::vector<core::Case>> BenchRegister::workloads(const std::string& bench) const {
  auto at = open(bench);
  if (!at) return at.error();
  auto statement = at->database.prepare("SELECT design FROM workload WHERE bench = ?1 ORDER BY at_ms DESC, case_title");
  if (!statement) return statement.error();
  statement->bind(1, std::string_view(at->bench));
  std::vector<core::Case> cases;
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return cases;
    // One that cannot be read any more is as good as forgotten.
    if (const auto design = studyFromJson(statement->text(0), path_); design && !design->cases.empty())
      cases.push_back(design->cases.front());
  }
}

Status BenchRegister::addWorkloads(const std::string& bench, const std::vector<core::Case>& cases, std::int64_t at_ms) {
  auto at = open(bench);
  if (!at) return at.error();
  return at->database.inTransaction([&]() -> Status {
    for (const core::Case& one : cases) {
      auto statement = at->database.prepare(
          "INSERT INTO workload (bench, case_title, at_ms, design) VALUES (?1, ?2, ?3, ?4) "
          "ON CONFLICT (bench, case_title) DO UPDATE SET at_ms = ?3, design = ?4");
      if (!statement) return statement.error();
      core::Study holder;  // a design is the one form in which a case is written
      holder.cases = {one};
      const std::string title = one.title();
      const std::string design = studyToJson(holder);
      statement->bind(1, std::string_view(at->bench)).bind(2, std::string_view(title)).bind(3, at_ms);
      if (auto done = stepOnce(statement->bind(4, std::string_view(design))); !done) return done;
    }
    return core::Done{};
  });
}

}  // namespace store
