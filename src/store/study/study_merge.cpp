#include "store/study/study_merge.h"

#include <array>

#include <fmt/format.h>

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using core::Status;

// Numbered in the order of recording, which the copy goes on with; pictures and proofs of typed results come from
// nowhere else than the study itself.
constexpr std::array kNumbered{"visit",         "pass",   "capture",  "measurement",
                               "frame_channel", "result", "possible", "companion"};

core::Result<std::int64_t> numberOf(Database& database, const std::string& sql) {
  auto statement = database.prepare(sql);
  if (!statement) return statement.error();
  if (const auto row = statement->step(); !row) return row.error();
  return statement->integer(0);
}

Error wentApart(const std::string& path) {
  return {ErrorKind::NotAllowed, "the study went on here and at its bench, each by itself", path,
          "Keep both files: what was measured in either is whole. Go on with a copy of one of them"};
}

// What both have must be the same, and only one may have more.
Status checkContinues(Database& database, const std::string& path) {
  const auto other =
      numberOf(database, "SELECT (SELECT identity FROM main.study) IS NOT (SELECT identity FROM fetched.study)");
  if (!other) return other.error();
  if (*other != 0)
    return Error{ErrorKind::NotAllowed, "what lies at the bench is another study", path,
                 "Move it away there, and start this one anew"};
  for (const char* table : kNumbered) {
    const auto unlike =
        numberOf(database, fmt::format("SELECT count(*) FROM main.{0} m JOIN fetched.{0} f ON m.id = f.id "
                                       "WHERE m.sum IS NOT f.sum",
                                       table));
    if (!unlike) return unlike.error();
    if (*unlike > 0) return wentApart(path);
  }
  return core::Done{};
}

Status takeNumbered(Database& database) {
  for (const char* table : kNumbered) {
    const auto taken = database.execute(fmt::format(
        "INSERT INTO main.{0} SELECT * FROM fetched.{0} WHERE id > (SELECT coalesce(max(id), 0) FROM main.{0})",
        table));
    if (!taken) return taken;
  }
  return core::Done{};
}

// Both may have written into the logbook meanwhile: what one says at one moment is known by itself.
core::Result<int> takeEvents(Database& database) {
  const auto taken = database.execute(
      "INSERT INTO main.event (at_ms, person, kind, subject, text) "
      "SELECT at_ms, person, kind, subject, text FROM fetched.event f WHERE NOT EXISTS (SELECT 1 FROM main.event m "
      "WHERE m.at_ms = f.at_ms AND m.person = f.person AND m.kind = f.kind AND m.subject = f.subject AND m.text = "
      "f.text) "
      "ORDER BY f.id");
  if (!taken) return taken.error();
  const int count = database.changedRows();
  const auto summed =
      database.execute("UPDATE main.event SET sum = row_sum(id, at_ms, person, kind, subject, text) WHERE sum IS NULL");
  if (!summed) return summed.error();
  return count;
}

core::Result<Merged> taken(Database& database, const std::string& path) {
  Merged merged;
  const Status done = database.inTransaction([&]() -> Status {
    if (auto fits = checkContinues(database, path); !fits) return fits;
    const auto visits = numberOf(database, "SELECT count(*) FROM main.visit");
    const auto passes = numberOf(database, "SELECT count(*) FROM main.pass");
    if (!visits) return visits.error();
    if (!passes) return passes.error();
    if (auto rows = takeNumbered(database); !rows) return rows;
    const auto events = takeEvents(database);
    if (!events) return events.error();
    const auto visits_now = numberOf(database, "SELECT count(*) FROM main.visit");
    const auto passes_now = numberOf(database, "SELECT count(*) FROM main.pass");
    if (!visits_now) return visits_now.error();
    if (!passes_now) return passes_now.error();
    merged = {static_cast<int>(*visits_now - *visits), static_cast<int>(*passes_now - *passes), *events};
    return core::Done{};
  });
  if (!done) return done.error();
  return merged;
}

}  // namespace

core::Result<Merged> takeRecorded(StudyFile& into, const std::string& copy) {
  Database& database = into.database_;
  auto attach = database.prepare("ATTACH DATABASE ?1 AS fetched");
  if (!attach) return attach.error();
  if (auto attached = stepOnce(attach->bind(1, std::string_view(copy))); !attached) return attached.error();
  auto merged = taken(database, into.path());
  if (auto detached = database.execute("DETACH DATABASE fetched"); !detached && merged) return detached.error();
  if (!merged) return merged;
  const auto last = into.lastVisit();
  if (!last) return last.error();
  into.last_visit_ = *last;
  return merged;
}

}  // namespace store
