#include "cli/commands.h"
#include "cli/with_session.h"

#include <map>

namespace cli {
core::Status stateCommand(const std::string& study_path, const std::string& fact, const std::string& value) {
  return withSession(study_path, [&](session::Session& session) { return session.state(fact, value); });
}

core::Status openEarlyCommand(const std::string& study_path, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) { return session.openEarly(reason); });
}

namespace {

core::Result<core::Side> sideNamed(const session::Session& session, const std::string& level) {
  for (const core::Side side : {core::Side::Baseline, core::Side::Changed})
    if (session.study().level(side).name == level) return side;
  return core::Error{core::ErrorKind::Missing, "the study has no level '" + level + "'", session.path(),
                     "Use '" + session.study().levels[0].name + "' or '" + session.study().levels[1].name + "'"};
}

}  // namespace

core::Status notReachableCommand(const std::string& study_path, const std::string& level, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto side = sideNamed(session, level);
    return side ? session.declareUnreachable(*side, reason) : core::Status(side.error());
  });
}

core::Status testedCommand(const std::string& study_path, const std::string& level, const std::string& how) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto side = sideNamed(session, level);
    return side ? session.stateStable(*side, how) : core::Status(side.error());
  });
}

core::Status skipCommand(const std::string& study_path, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) { return session.skipNext(reason); });
}

core::Status addRoundCommand(const std::string& study_path, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) { return session.addRound(reason); });
}

core::Status extendCommand(const std::string& study_path, std::ostream& out) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto extension = core::judgementOf(session.study(), store::recordOf(session.recorded())).extension;
    if (!extension)
      return core::Error{core::ErrorKind::NotAllowed, "no extension is due", study_path,
                         "A finished plan of rounds may be extended once, where its interval is too wide to decide"};
    out << "Extended once by " << extension->rounds << " rounds. Run the study to go on.\n";
    return session.extendPlan(*extension);
  });
}

core::Status predictCommand(const std::string& study_path, const std::string& who, double percent) {
  return withSession(study_path, [&](session::Session& session) { return session.predict(who, percent); });
}

core::Status explainCommand(const std::string& study_path, const std::string& case_title, const std::string& grade,
                            const std::string& text) {
  const auto named = core::gradeNamed(grade);
  if (!named)
    return core::Error{core::ErrorKind::OutOfRange, "'" + grade + "' is no grade of a cause", "grade",
                       "Use measured, 'ruled out', conjecture or unexplained"};
  return withSession(study_path, [&](session::Session& session) { return session.explain(case_title, *named, text); });
}

core::Status judgeCommand(const JudgeOptions& options) {
  using core::Yardstick;
  static const std::map<std::string, Yardstick> known{{"interval", Yardstick::Interval},
                                                      {"fixed_band", Yardstick::FixedBand},
                                                      {"two_run_to_run_sds", Yardstick::TwoRunToRunSds}};
  const auto yardstick = known.find(options.yardstick);
  if (!options.yardstick.empty() && yardstick == known.end())
    return core::Error{core::ErrorKind::OutOfRange, "'" + options.yardstick + "' is no yardstick", "--yardstick",
                       "Use interval, fixed_band or two_run_to_run_sds"};
  return withSession(options.study_path, [&](session::Session& session) {
    core::Judging judging = core::judgingOf(session.study());
    if (options.threshold_percent) judging.notice_threshold_percent = *options.threshold_percent;
    if (options.band_percent) judging.band_percent = *options.band_percent;
    if (yardstick != known.end()) judging.yardstick = yardstick->second;
    return session.changeJudging(judging, options.reason);
  });
}

core::Status copyToCommand(const std::string& study_path, const std::string& folder) {
  return withSession(study_path, [&](session::Session& session) { return session.setSecondFolder(folder); });
}

}  // namespace cli
