#include <QCoreApplication>
#include <QTimer>
#include <iostream>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "bench/local_bench.h"
#include "cli/commands.h"
#include "cli/commands/approval.h"
#include "cli/commands/stop_signals.h"
#include "core/record/flip_guide.h"
#include "core/values/shown_text.h"
#include "session/sheet/setting_journal.h"
#include "session/sheet/step_search_run.h"
#include "session/user/person.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using Ending = session::StepSearchRun::Ending;
using json = nlohmann::ordered_json;

json searchJson(const core::Study& study, const core::Record& record, Ending ending) {
  const core::StepSearch search = core::stepSearchOf(study, record.steps_tried);
  const auto nameOrNull = [&](const std::optional<core::ConfigurationId>& at) {
    return at ? json(study.nameOf(*at)) : json();
  };
  json tried = json::array();
  for (const core::StepTried& one : record.steps_tried)
    if (one.phase == core::StepPhase::Held || one.phase == core::StepPhase::Failed)
      tried.push_back(
          {{"step", study.nameOf(one.configuration)}, {"held", one.phase == core::StepPhase::Held}, {"how", one.text}});
  return {{"over", search.isOver()},
          {"highest", nameOrNull(search.highest)},
          {"next", nameOrNull(search.next)},
          {"waits_for_a_person", ending == Ending::WaitsForPerson},
          {"tried", tried}};
}

void printNext(const session::Session& session, const core::Record& record, std::ostream& out) {
  const core::Study& study = session.study();
  const core::StepSearch search = core::stepSearchOf(study, record.steps_tried);
  const core::FlipGuide guide = core::flipGuide(study, *search.next, std::nullopt);
  out << fmt::format("Now bring {} to {} by hand:\n", study.bench, study.nameOf(*search.next));
  for (const std::string& step : guide.steps) out << "  - " << step << '\n';
  for (const std::string& point : guide.checklist) out << "  [ ] " << core::shownLine(point) << '\n';
  out << "Cautions:\n";
  for (const std::string& caution : guide.cautions) out << "  - " << caution << '\n';
  out << fmt::format("Then: iron-lever-cli search {} --set\n", core::shownWord(session.open().path()));
}

void printStory(const session::Session& session, Ending ending, std::ostream& out) {
  const core::Record record = store::recordOf(session.recorded());
  for (const std::string& sentence : core::searchStory(session.study(), record.steps_tried)) out << sentence << ".\n";
  out << core::searchText(session.study(), record.steps_tried) << ".\n";
  if (ending == Ending::WaitsForPerson) printNext(session, record, out);
  if (ending == Ending::WaitsForRestart)
    out << "It is set, and needs a restart. Restart the machine, then run the same command again.\n";
}

ExitCode codeOf(Ending ending) {
  if (ending == Ending::Over) return ExitCode::Done;
  return ending == Ending::Stopped ? ExitCode::Stopped : ExitCode::WaitsForPerson;
}

}  // namespace

core::Result<ExitCode> searchCommand(const SearchOptions& options, std::ostream& out) {
  auto file = store::StudyFile::open(options.run.study_path);
  if (!file) return file.error();
  bench::LocalBench bench;
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  const std::string person = session::personAtThisMachine();
  for (const std::string& sentence : session::putBackLeftOvers(*files, person))
    (options.is_json ? std::cerr : out) << sentence << ".\n";
  session::Session session(*std::move(file), bench, *files, person);
  if (session.problem()) return *session.problem();
  if (const auto problems = core::searchProblems(session.study()); !problems.empty()) return problems.front();
  // What is to be read by a program holds nothing else.
  if (auto approved = approveOrExplain(session, options.run, options.is_json ? std::cerr : out); !approved)
    return approved.error();
  session::StepSearchRun& search = session.search();
  const StopSignals stop_signals([&](int, bool) { search.stop(); });
  QObject life;
  QObject::connect(&search, &session::StepSearchRun::finished, &life, [] {
    QTimer::singleShot(0, [] { QCoreApplication::exit(0); });  // it may end before anything waits
  });
  if (auto started = search.start({options.is_set, options.is_attended}); !started) return started.error();
  QCoreApplication::exec();
  if (options.is_json)
    out << store::jsonText(searchJson(session.study(), store::recordOf(session.recorded()), search.ending()), 1)
        << '\n';
  else
    printStory(session, search.ending(), out);
  if (search.ending() == Ending::CannotGoOn) return *search.problem();
  return codeOf(search.ending());
}

}  // namespace cli
