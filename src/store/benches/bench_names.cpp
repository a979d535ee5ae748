#include "store/benches/bench_names.h"

#include <fmt/format.h>

#include "store/benches/register_file.h"

namespace store {

using core::Error;
using core::ErrorKind;
using core::Status;

namespace {

core::Result<std::map<std::string, std::string>> namesIn(Database& database) {
  std::map<std::string, std::string> names;
  const auto read = forEachRow(database, "SELECT was, now FROM also_called", [&](const Statement& row) -> Status {
    names[row.text(0)] = row.text(1);
    return core::Done{};
  });
  if (!read) return read.error();
  for (auto& [was, now] : names)  // renamed again, and again
    for (std::set<std::string> seen{was}; names.contains(now) && seen.insert(now).second;) now = names.at(now);
  return names;
}

// Of what stands under both names, the newer one's is kept.
Status moveNotes(Database& database, const std::string& then, const std::string& now) {
  for (const char* table :
       {"bench_capture", "menu_path", "noise", "log_recipe", "workload", "repeatability", "checklist", "paper"}) {
    auto statement = database.prepare(fmt::format("UPDATE OR IGNORE {} SET bench = ?2 WHERE bench = ?1", table));
    if (!statement) return statement.error();
    if (auto moved = stepOnce(statement->bind(1, std::string_view(then)).bind(2, std::string_view(now))); !moved)
      return moved;
  }
  return core::Done{};
}

}  // namespace

core::Result<std::string> benchNow(Database& database, const std::string& name) {
  const auto names = namesIn(database);
  if (!names) return names.error();
  if (const auto found = names->find(name); found != names->end()) return found->second;
  for (const auto& [was, now] : *names)
    if (name == standInFor(was)) return standInFor(now);
  return name;
}

core::Result<std::map<std::string, std::string>> BenchNames::all() const {
  auto database = openRegister(path_);
  if (!database) return database.error();
  return namesIn(*database);
}

core::Result<std::string> BenchNames::now(const std::string& name) const {
  auto database = openRegister(path_);
  if (!database) return database.error();
  return benchNow(*database, name);
}

Status BenchNames::rename(const std::string& then, const std::string& now) {
  if (then.empty() || now.empty() || then == now)
    return Error{ErrorKind::OutOfRange, "a bench is renamed from one name to another", then, "Name both"};
  const auto latest = this->now(now);
  if (!latest) return latest.error();
  if (*latest == then)
    return Error{ErrorKind::OutOfRange, fmt::format("{} is called {} now", now, then), now,
                 "Name the newest name last"};
  auto database = openRegister(path_);
  if (!database) return database.error();
  return database->inTransaction([&]() -> Status {
    if (auto moved = moveNotes(*database, then, now); !moved) return moved;
    if (auto moved = moveNotes(*database, standInFor(then), standInFor(now)); !moved) return moved;
    auto statement = database->prepare("INSERT OR REPLACE INTO also_called (was, now) VALUES (?1, ?2)");
    if (!statement) return statement.error();
    return stepOnce(statement->bind(1, std::string_view(then)).bind(2, std::string_view(now)));
  });
}

Status BenchNames::settle(const std::string& question) {
  auto database = openRegister(path_);
  if (!database) return database.error();
  return database->inTransaction([&]() -> Status {
    auto statement = database->prepare("INSERT OR IGNORE INTO settled_question (question) VALUES (?1)");
    if (!statement) return statement.error();
    return stepOnce(statement->bind(1, std::string_view(question)));
  });
}

core::Result<std::set<std::string>> BenchNames::settled() const {
  auto database = openRegister(path_);
  if (!database) return database.error();
  std::set<std::string> questions;
  const auto read = forEachRow(*database, "SELECT question FROM settled_question", [&](const Statement& row) -> Status {
    questions.insert(row.text(0));
    return core::Done{};
  });
  if (!read) return read.error();
  return questions;
}

}  // namespace store
