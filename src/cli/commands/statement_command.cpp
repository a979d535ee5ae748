#include <cmath>
#include "cli/commands.h"
#include "cli/commands/named_level.h"
#include "cli/commands/with_session.h"

#include <map>
#include <random>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/derived_studies.h"
#include "core/values/number_text.h"
#include "session/study/observation.h"

namespace cli {
core::Status stateCommand(const std::string& study_path, const std::string& fact, const std::string& value) {
  return withSession(study_path, [&](session::Session& session) { return session.decisions().state(fact, value); });
}

core::Status openEarlyCommand(const std::string& study_path, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) { return session.decisions().openEarly(reason); });
}

core::Status notReachableCommand(const std::string& study_path, const std::string& level, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto configuration = namedLevel(session.study(), level, session.open().path());
    return configuration ? session.decisions().declareUnreachable(*configuration, reason)
                         : core::Status(configuration.error());
  });
}

core::Status testedCommand(const std::string& study_path, const std::string& level, const std::string& how) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto configuration = namedLevel(session.study(), level, session.open().path());
    return configuration ? session.decisions().stateStable(*configuration, how) : core::Status(configuration.error());
  });
}

core::Status skipCommand(const std::string& study_path, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) { return session.decisions().skipNext(reason); });
}

core::Status measureAnywayCommand(const std::string& study_path, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) { return session.decisions().measureAnyway(reason); });
}

core::Result<int> visitNumber(const std::string& text) {
  const auto number = core::numberOf(text);
  if (!number || *number < 1 || *number > 1e6 || *number != std::floor(*number))
    return core::Error{core::ErrorKind::OutOfRange, "'" + text + "' is not the number of a visit", "visit",
                       "Use its number on the sheet, such as 3"};
  return static_cast<int>(*number);
}

core::Status repeatVisitCommand(const std::string& study_path, const std::string& visit, const std::string& reason) {
  const auto number = visitNumber(visit);
  if (!number) return number.error();
  return withSession(study_path,
                     [&](session::Session& session) { return session.decisions().repeatVisit(*number, reason); });
}

core::Status stopAtLookCommand(const std::string& study_path) {
  return withSession(study_path, [](session::Session& session) { return session.decisions().stopAtLook(); });
}

core::Status addRoundCommand(const std::string& study_path, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) { return session.decisions().addRound(reason); });
}

core::Status extendCommand(const std::string& study_path, std::ostream& out) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto extension = core::judgementOf(session.study(), store::recordOf(session.recorded())).extension;
    if (!extension)
      return core::Error{core::ErrorKind::NotAllowed, "no extension is due", study_path,
                         "A finished plan of rounds may be extended once, where its interval is too wide to decide"};
    if (auto extended = session.decisions().extendPlan(*extension); !extended) return extended;
    out << "Extended once by " << core::countText(extension->rounds, "round", "rounds")
        << ". Run the study to go on.\n";
    return core::Done{};
  });
}

core::Status predictCommand(const std::string& study_path, const std::string& who, double percent) {
  return withSession(study_path, [&](session::Session& session) { return session.decisions().predict(who, percent); });
}

core::Status explainCommand(const std::string& study_path, const std::string& case_title, const std::string& grade,
                            const std::string& text) {
  const auto named = core::gradeNamed(grade);
  if (!named)
    return core::Error{core::ErrorKind::OutOfRange, "'" + grade + "' is not a kind of evidence", "grade",
                       "Use measured, 'ruled out', conjecture or unexplained"};
  return withSession(study_path,
                     [&](session::Session& session) { return session.decisions().explain(case_title, *named, text); });
}

core::Status judgeCommand(const JudgeOptions& options) {
  using core::Yardstick;
  static const std::map<std::string, Yardstick> known{{"interval", Yardstick::Interval},
                                                      {"fixed_band", Yardstick::FixedBand},
                                                      {"two_run_to_run_sds", Yardstick::TwoRunToRunSds}};
  const auto yardstick = known.find(options.yardstick);
  if (!options.yardstick.empty() && yardstick == known.end())
    return core::Error{core::ErrorKind::OutOfRange, "'" + options.yardstick + "' is not a yardstick", "--yardstick",
                       "Use interval, fixed_band or two_run_to_run_sds"};
  return withSession(options.study_path, [&](session::Session& session) {
    core::Judging judging = core::judgingOf(session.study());
    if (options.threshold_percent) judging.notice_threshold_percent = *options.threshold_percent;
    if (options.threshold_ms)
      judging.notice_threshold_ms = *options.threshold_ms > 0 ? options.threshold_ms : std::nullopt;
    if (options.band_percent) judging.band_percent = *options.band_percent;
    if (yardstick != known.end()) judging.yardstick = yardstick->second;
    return session.decisions().changeJudging(judging, options.reason);
  });
}

core::Status acceptCommand(const std::string& study_path, const std::string& doubt_id, const std::string& reason) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const core::Judgement judged = core::judgementOf(session.study(), store::recordOf(session.recorded()));
    std::string known;
    for (const core::Doubt& doubt : judged.doubts) {
      if (doubt.id == doubt_id) return session.decisions().acceptDoubt(doubt_id, reason);
      known += (known.empty() ? "" : "; ") + doubt.id;
    }
    return core::Error{core::ErrorKind::Missing, "there is no doubt '" + doubt_id + "'", study_path,
                       known.empty() ? "Nothing is doubted" : "Use one of: " + known};
  });
}

core::Status noteCommand(const std::string& study_path, const std::string& text, const NoteOptions& options) {
  return withSession(study_path, [&](session::Session& session) {
    return options.is_observed || !options.picture.empty() ? session::observe(session.open(), text, options.picture)
                                                           : session.decisions().addNote(text);
  });
}

namespace {

core::Status makeAnew(const std::string& new_path, const core::Study& study) {
  std::random_device chance;
  constexpr unsigned kSeeds = 1U << 30;
  const auto file = store::StudyFile::create(new_path, core::startedAnew(study, static_cast<int>(chance() % kSeeds)));
  return file ? core::Status(core::Done{}) : file.error();
}

}  // namespace

core::Status repeatCommand(const std::string& study_path, const std::string& new_path, bool asks_lower,
                           std::ostream& out) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto lower = asks_lower ? core::askedFurtherDown(session.study()) : std::nullopt;
    if (lower) {
      if (auto made = makeAnew(new_path, *lower); !made) return made;
      out << fmt::format("What would {} say? Asked in a new study: {}.\n", lower->variable().levels[1].name, new_path);
      return core::Done{};
    }
    if (asks_lower)
      return core::Error{core::ErrorKind::Missing, "nobody can tell which level is the next lower one", study_path,
                         "Write the question anew, with new"};
    if (auto made = makeAnew(new_path, session.study()); !made) return made;
    out << "The same question, as a new study: " << new_path << ".\n";
    return core::Done{};
  });
}

static core::Error sealedError(const std::string& study_path) {
  return {core::ErrorKind::NotAllowed, "the results are sealed: there is nothing to confirm yet", study_path,
          "Finish the plan first"};
}

core::Status confirmCommand(const std::string& study_path, const std::string& new_path, const std::string& case_title,
                            std::ostream& out) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const core::Judgement judged = core::judgementOf(session.study(), store::recordOf(session.recorded()));
    if (judged.is_sealed) return sealedError(study_path);
    std::string known;
    for (std::size_t i = 0; i < session.study().cases.size(); ++i) {
      const std::string title = session.study().cases[i].title();
      known += (known.empty() ? "" : "; ") + title;
      if (title != case_title && !(case_title.empty() && session.study().cases.size() == 1)) continue;
      if (judged.isSealed(session.study().cases[i])) return sealedError(study_path);
      const core::Study again = core::confirmationOf(session.study(), judged.findings, i, judged.pair);
      if (auto made = makeAnew(new_path, again); !made) return made;
      out << "A confirmation of " << title << ": " << new_path << ".\n";
      return session.decisions().addNote("A confirmation of " + title + " begins: " + new_path);
    }
    return core::Error{core::ErrorKind::Missing, "there is no case '" + case_title + "'", study_path,
                       "Use one of: " + known};
  });
}

core::Status copyToCommand(const std::string& study_path, const std::string& folder) {
  return withSession(study_path, [&](session::Session& session) { return session.secondCopy().setFolder(folder); });
}

}  // namespace cli
