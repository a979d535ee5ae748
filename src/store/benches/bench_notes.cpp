// What people wrote down about a bench: where its settings are found, what is ticked at a flip, its papers.
#include <algorithm>

#include <nlohmann/json.hpp>

#include "store/benches/bench_register.h"

namespace store {

using core::Error;
using core::ErrorKind;
using core::Status;

// What is written down about a level stands under its bench, its kind and its name.
static Statement& bindLevel(Statement& statement, const std::string& bench, const std::string& kind,
                            const std::string& level) {
  return statement.bind(1, std::string_view(bench)).bind(2, std::string_view(kind)).bind(3, std::string_view(level));
}

core::Result<std::string> BenchRegister::menuPath(const std::string& bench, const std::string& kind,
                                                  const std::string& level) const {
  auto at = open(bench);
  if (!at) return at.error();
  auto statement = at->database.prepare("SELECT path FROM menu_path WHERE bench = ?1 AND kind = ?2 AND level = ?3");
  if (!statement) return statement.error();
  const auto row = bindLevel(*statement, at->bench, kind, level).step();
  if (!row) return row.error();
  return *row ? statement->text(0) : std::string();
}

Status BenchRegister::setMenuPath(const std::string& bench, const std::string& kind, const std::string& level,
                                  const std::string& menu_path) {
  auto at = open(bench);
  if (!at) return at.error();
  return at->database.inTransaction([&]() -> Status {
    auto statement = at->database.prepare(
        "INSERT INTO menu_path (bench, kind, level, path) VALUES (?1, ?2, ?3, ?4) "
        "ON CONFLICT (bench, kind, level) DO UPDATE SET path = ?4");
    if (!statement) return statement.error();
    return stepOnce(bindLevel(*statement, at->bench, kind, level).bind(4, std::string_view(menu_path)));
  });
}

core::Result<std::vector<std::string>> BenchRegister::checklist(const std::string& bench, const std::string& kind,
                                                                const std::string& level) const {
  auto at = open(bench);
  if (!at) return at.error();
  auto statement = at->database.prepare("SELECT points FROM checklist WHERE bench = ?1 AND kind = ?2 AND level = ?3");
  if (!statement) return statement.error();
  const auto row = bindLevel(*statement, at->bench, kind, level).step();
  if (!row) return row.error();
  std::vector<std::string> points;
  if (!*row) return points;
  const auto list = nlohmann::json::parse(statement->text(0), nullptr, false);
  for (const auto& point : list.is_array() ? list : nlohmann::json::array())
    if (point.is_string()) points.push_back(point.get<std::string>());
  return points;
}

Status BenchRegister::setChecklist(const std::string& bench, const std::string& kind, const std::string& level,
                                   const std::vector<std::string>& points) {
  auto at = open(bench);
  if (!at) return at.error();
  return at->database.inTransaction([&]() -> Status {
    auto statement = at->database.prepare(
        "INSERT INTO checklist (bench, kind, level, points) VALUES (?1, ?2, ?3, ?4) "
        "ON CONFLICT (bench, kind, level) DO UPDATE SET points = ?4");
    if (!statement) return statement.error();
    const std::string list = nlohmann::json(points).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
    return stepOnce(bindLevel(*statement, at->bench, kind, level).bind(4, std::string_view(list)));
  });
}

core::Result<std::vector<BenchRegister::Paper>> BenchRegister::papers(const std::string& bench) const {
  auto at = open(bench);
  if (!at) return at.error();
  auto statement = at->database.prepare("SELECT id, kind, text, until FROM paper WHERE bench = ?1 ORDER BY id");
  if (!statement) return statement.error();
  statement->bind(1, std::string_view(at->bench));
  std::vector<Paper> all;
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return all;
    all.push_back({statement->integer(0), statement->text(1), statement->text(2), statement->text(3)});
  }
}

Status BenchRegister::addPaper(const std::string& bench, const Paper& paper) {
  auto at = open(bench);
  if (!at) return at.error();
  return at->database.inTransaction([&]() -> Status {
    auto statement = at->database.prepare("INSERT INTO paper (bench, kind, text, until) VALUES (?1, ?2, ?3, ?4)");
    if (!statement) return statement.error();
    statement->bind(1, std::string_view(at->bench)).bind(2, std::string_view(paper.kind));
    return stepOnce(statement->bind(3, std::string_view(paper.text)).bind(4, std::string_view(paper.until)));
  });
}

Status BenchRegister::removePaper(const std::string& bench, std::int64_t id) {
  const auto all = papers(bench);
  if (!all) return all.error();
  if (std::none_of(all->begin(), all->end(), [&](const Paper& one) { return one.id == id; }))
    return Error{ErrorKind::Missing, "the bench has no paper " + std::to_string(id), bench, "List them with --papers"};
  auto at = open(bench);
  if (!at) return at.error();
  return at->database.inTransaction([&]() -> Status {
    auto statement = at->database.prepare("DELETE FROM paper WHERE bench = ?1 AND id = ?2");
    if (!statement) return statement.error();
    return stepOnce(statement->bind(1, std::string_view(at->bench)).bind(2, id));
  });
}

}  // namespace store
