#include "bench/local_bench.h"
#include "cli/commands.h"
#include "session/person.h"
#include "session/session.h"

namespace cli {
namespace {

/// Does one thing to a study that is not run.
core::Status withSession(const std::string& study_path, const std::function<core::Status(session::Session&)>& act) {
  auto file = store::StudyFile::open(study_path);
  if (!file) return file.error();
  bench::LocalBench bench;
  session::Session session(*std::move(file), bench, session::UserFiles::ofThisUser(), session::personAtThisMachine());
  if (session.problem()) return *session.problem();
  return act(session);
}

}  // namespace

core::Status stateCommand(const std::string& study_path, const std::string& fact, const std::string& value) {
  return withSession(study_path, [&](session::Session& session) { return session.state(fact, value); });
}

core::Status openEarlyCommand(const std::string& study_path, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) { return session.openEarly(reason); });
}

core::Status notReachableCommand(const std::string& study_path, const std::string& level, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    for (const core::Side side : {core::Side::Baseline, core::Side::Changed})
      if (session.study().level(side).name == level) return session.declareUnreachable(side, reason);
    return core::Error{core::ErrorKind::Missing, "the study has no level '" + level + "'", study_path,
                       "Use '" + session.study().levels[0].name + "' or '" + session.study().levels[1].name + "'"};
  });
}

}  // namespace cli
