#include <QCoreApplication>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/commands/stop_signals.h"
#include "cli/commands/with_session.h"
#include "core/estimate/wording.h"
#include "report/json/or_null.h"
#include "session/sheet/rights_trial.h"
#include "session/user/file_lock.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using json = nlohmann::ordered_json;
using Tried = session::RightsTrial::Tried;

json withoutJson(const core::Without& without) {
  return {{"new_privileges", without.new_privileges},
          {"network", without.network},
          {"shared_temporary_folder", without.shared_temporary_folder}};
}

std::string keptText(const core::Without& without) {
  return without.any() ? core::withoutText(without) : "with all rights";
}

void printFound(const core::Case& a_case, const session::RightsTrial& trial, std::ostream& out) {
  const auto value = [&](const Tried& one) { return core::valueText(*one.value, a_case.metric.unit); };
  const Tried& first = trial.tried().front();
  if (!first.value) {
    out << fmt::format("{}: no result {}: {}\n", a_case.title(), keptText(first.without), first.failure);
    return;
  }
  for (const Tried& one : trial.tried())
    if (!one.value)
      out << fmt::format("{}: fails {}: {}\n", a_case.title(), core::withoutText(one.without), one.failure);
  const auto proposed = trial.proposed();
  if (!proposed) {
    out << fmt::format("{}: needs all the rights that it keeps\n", a_case.title());
    return;
  }
  out << fmt::format("{}: {} {}, {} {}\n  in the design's case: \"without\": {}\n", a_case.title(), value(first),
                     keptText(first.without), value(*proposed), core::withoutText(proposed->without),
                     store::jsonText(withoutJson(proposed->without)));
}

json foundJson(const core::Case& a_case, const session::RightsTrial& trial) {
  json tried = json::array();
  for (const Tried& one : trial.tried())
    tried.push_back({{"without", withoutJson(one.without)},
                     {"value", report::orNull(one.value)},
                     {"failure", one.value ? json() : json(one.failure)}});
  const auto proposed = trial.proposed();
  return {{"case", a_case.title()},
          {"unit", a_case.metric.unit},
          {"tried", tried},
          {"proposed", proposed ? withoutJson(proposed->without) : json()}};
}

bool runsToItsEnd(session::RightsTrial& trial, const core::Case& a_case, const session::Session& session) {
  bool is_stopped = false;
  const StopSignals stop_signals([&](int, bool) {
    is_stopped = true;
    trial.stop();
  });
  QObject life;
  QObject::connect(&trial, &session::RightsTrial::finished, &life, [] { QCoreApplication::exit(0); });
  trial.start(a_case, session.open().folder(), session.study());
  QCoreApplication::exec();
  return !is_stopped;
}

}  // namespace

core::Status rightsCommand(const std::string& study_path, bool as_json, std::ostream& out) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    if (const auto problems = core::problemsOf(session.study()); !problems.empty()) return problems.front();
    if (!session.machine().unapprovedActs().empty())
      return Error{ErrorKind::NotApproved, "nothing was started", session.open().path(),
                   "Read what the study does and approve it first: iron-lever-cli run"};
    const auto lock = session::FileLock::acquire(session.open().path(), session.open().person());
    if (!lock) return lock.error();
    json all = json::array();
    for (const core::Case& a_case : session.study().cases) {
      if (!session::canBeTried(a_case)) continue;
      session::RightsTrial trial(session.machine().own());
      if (!runsToItsEnd(trial, a_case, session))
        return Error{ErrorKind::CommandFailed, "stopped by a person", a_case.title(), "Call it again"};
      if (as_json)
        all.push_back(foundJson(a_case, trial));
      else
        printFound(a_case, trial, out);
    }
    if (as_json)
      out << store::jsonText(json{{"study", study_path}, {"cases", all}}, 1) << '\n';
    else
      out << "Nothing of it was filed. A program may yield less without a word: compare the values.\n";
    return core::Done{};
  });
}

}  // namespace cli
