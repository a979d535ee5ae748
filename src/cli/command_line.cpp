#include <QCoreApplication>
#include <algorithm>
#include <csignal>
#include <iostream>

#include <CLI/CLI.hpp>

#include "cli/commands.h"
#include "cli/commands/shown_stream.h"
#include "cli/options.h"
#include "core/values/number_text.h"
#include "core/values/shown_text.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

// Behind -- stand words of another program.
bool isForScripts(int argc, char** argv) {
  const auto is = [](std::string_view wanted) { return [wanted](const char* word) { return wanted == word; }; };
  return std::any_of(argv + 1, std::find_if(argv + 1, argv + argc, is("--")), is("--json"));
}

// An error, for whoever reads it; and what we end with.
ExitCode tell(const core::Error& error, bool is_for_scripts) {
  if (is_for_scripts)
    std::cerr << store::jsonText(nlohmann::ordered_json{
                     {"error", {{"what", error.what}, {"where", error.where}, {"remedy", error.remedy}}}})
              << '\n';
  else
    std::cerr << core::shownLine(error.sentence()) << '\n';
  return exitCodeOf(error);
}

int badCall(const CLI::App& app, const CLI::ParseError& error, const std::string& first) {
  if (app.exit(error) == 0) return std::cout.flush() ? 0 : static_cast<int>(ExitCode::Failed);
  std::vector<std::string> names;
  for (const CLI::App* command : app.get_subcommands({})) names.push_back(command->get_name());
  const bool is_known = std::find(names.begin(), names.end(), first) != names.end();
  if (const std::string near = nearestName(first, names); !is_known && !near.empty())
    std::cerr << "Did you mean '" << near << "'?\n";
  return static_cast<int>(ExitCode::BadCall);
}

}  // namespace

int runCommandLine(int argc, char** argv) {
  QCoreApplication application(argc, argv);
  core::keepPlainLocale();
  std::signal(SIGPIPE, SIG_IGN);  // who no longer reads is told by the stream; settings are put back first
  CLI::App app("Iron Lever: what one platform variable changes, in percent, and how sure");
  app.set_version_flag("--version", IRON_LEVER_VERSION);
  app.require_subcommand(1);
  std::string path;
  std::string design;
  std::string group;
  bool as_json = false;
  RunOptions run_options;

  CLI::App* make = app.add_subcommand("new", "Make a study file from a design");
  make->add_option("study", path, "The file to make")->required();
  make->add_option("--design", design, "The design (JSON)")->required();
  CLI::App* run = app.add_subcommand("run", "Run a study, or go on where it stood");
  run->add_option("study", run_options.study_path, "The study file")->required();
  // A flag that may carry a value behind =, so that the study may stand on either side of it.
  std::string approved;
  auto* approve = run->add_flag("--approve", approved,
                                "I have read what this study does and approve it; --approve=DIGEST: exactly that");
  run->add_flag("--repeat-failed", run_options.repeats_failed, "Try failed passes once more");
  run->add_flag("--quiet", run_options.is_quiet, "Print no line for each pass");
  double minutes = 0;
  CLI::App* plan = app.add_subcommand("plan", "Print what a study's plan costs and buys, and which is enough");
  plan->add_option("study", path, "The study file")->required();
  plan->add_option("--minutes", minutes, "The best plan within so many minutes instead")
      ->check(numberWithin(1, 1e6, "minutes"));
  plan->add_flag("--json", as_json, "For scripts");
  CLI::App* status = app.add_subcommand("status", "Print where a study's sheet stands");
  status->add_option("study", path, "The study file")->required();
  status->add_flag("--json", as_json, "For scripts");
  CLI::App* resume = app.add_subcommand("resume", "Go on with every sheet that a restart interrupted");
  bool installs = false;
  bool removes = false;
  auto* install_flag = resume->add_flag("--install", installs, "Do so at each start, by a systemd unit for this user");
  resume->add_flag("--remove", removes, "Take that unit away")->excludes(install_flag);
  CLI::App* findings = app.add_subcommand("findings", "Print what a study found");
  findings->add_option("study", path, "The study file")->required();
  findings->add_flag("--json", as_json, "For scripts");
  std::string open_because;
  findings->add_option("--open", open_because, "Open sealed results early, for this reason; it is recorded");
  std::string page_path;
  CLI::App* report = app.add_subcommand("report", "Write what a study found as one page of HTML");
  report->add_option("study", path, "The study file")->required();
  report->add_option("--out", page_path, "Where to, for example report.html")->required();
  CLI::App* compute = app.add_subcommand("compute", "One calculation: JSON on standard input, JSON out");
  compute->add_option("group", group, "Which calculation; an unknown one lists them")->required();
  CaptureOptions capture_options;
  CLI::App* capture = app.add_subcommand("capture", "Read everything that this machine says about itself");
  capture->add_option("--root", capture_options.root, "A folder that stands for a machine, with its proc and sys");
  capture->add_option("--root-facts", capture_options.root_facts, "The folder that iron-lever-root-facts wrote");
  capture->add_option("--device", capture_options.device, "PCI address of the device under test");
  capture->add_flag("--json", capture_options.as_json, "For scripts");
  DiffOptions diff_options;
  CLI::App* diff = app.add_subcommand("diff", "Compare two captures: did the variable move, and what moved with it");
  diff->add_option("baseline", diff_options.baseline_path, "A capture (JSON)")->required();
  diff->add_option("changed", diff_options.changed_path, "A capture (JSON)")->required();
  diff->add_option("--variable", diff_options.kind, "The kind of variable; an unknown one lists them")->required();
  diff->add_option("--device", diff_options.device, "PCI address of the device under test");
  diff->add_option("--field", diff_options.fields, "For 'other': a fact that must change; * stands for any text");
  diff->add_flag("--json", diff_options.as_json, "For scripts");
  std::string bench_name;
  CLI::App* benches = app.add_subcommand("benches", "List the benches that were worked on, or what one was when");
  benches->add_option("bench", bench_name, "One of them");
  benches->add_flag("--json", as_json, "For scripts");
  std::string what;
  std::string text;
  CLI::App* state = app.add_subcommand("state", "Record what only you know about a study's bench");
  state->add_option("study", path, "The study file")->required();
  state->add_option("fact", what, "room_temperature, cooler, cable ...; an unknown one lists them")->required();
  state->add_option("value", text, "Empty takes it back")->required();
  CLI::App* unreachable = app.add_subcommand("not-reachable", "Record that a level cannot be reached: a result");
  unreachable->add_option("study", path, "The study file")->required();
  unreachable->add_option("level", what, "Its name")->required();
  unreachable->add_option("reason", text, "What was tried, and what happened")->required();
  MeasureOptions measure_options;
  CLI::App* measure = app.add_subcommand("measure", "Read a log of frames of any shape, and print what it says");
  measure->add_option("log", measure_options.path, "Delimited text, JSON lines, or one number a line")->required();
  auto* column = measure->add_option("--column", measure_options.column, "The column that tells the time");
  measure->add_flag("--stamps", measure_options.are_stamps, "That column holds moments, not durations")->needs(column);
  measure->add_option("--unit", measure_options.unit, "s, ms, us or ns");
  measure->add_option("--target", measure_options.target_fps, "The rate to hold, FPS")
      ->check(numberWithin(1, 10000, "FPS"));
  measure->add_flag("--json", measure_options.as_json, "For scripts");
  RecordOptions record_options;
  CLI::App* record = app.add_subcommand("record", "Run a program and record its frames, without its help");
  record->add_option("command", record_options.command, "The program and its arguments, after --")->required();
  record->add_option("--out", record_options.out_path, "Where the frame times go");
  auto* seconds = record->add_option("--seconds", record_options.seconds, "Count so many, then end the program")
                      ->check(numberWithin(0.1, 86400, "s"));
  record->add_option("--frames", record_options.frames, "Count so many, then end the program")
      ->check(numberWithin(1, 1e9, "frames"))
      ->excludes(seconds);
  record->add_flag("--start-key", record_options.has_start_key,
                   "Count from the moment at which Ctrl+Alt+Space is pressed, not from the first frame");
  record->add_option("--program", record_options.program,
                     "Whose frames count, or the title of its window; else of who shows most");
  record->add_flag("--device-time", record_options.has_device_time,
                   "Also time the graphics device's work on each frame (Vulkan); it hands the device commands of ours");
  record->add_flag("--quiet", record_options.is_quiet, "Keep what the program prints off the terminal");
  record->add_option("--target", record_options.target_fps, "The rate to hold, FPS")
      ->check(numberWithin(1, 10000, "FPS"));
  record->add_flag("--json", record_options.as_json, "For scripts");
  CLI::App* passes = app.add_subcommand("passes", "Print every pass of a study");
  passes->add_option("study", path, "The study file")->required();
  passes->add_flag("--json", as_json, "For scripts");
  std::int64_t pass_id = 0;
  int cause = -1;
  CLI::App* exclude = app.add_subcommand("exclude", "Leave a pass out of every result, for a physical cause");
  exclude->add_option("study", path, "The study file")->required();
  exclude->add_option("pass", pass_id, "Its id, as `passes` prints it")->required();
  exclude->add_option("cause", cause, "Its number; an unknown one lists them; 0 takes it back")->required();
  CLI::App* type = app.add_subcommand("type", "Enter the result of the next pass that is run by hand");
  type->add_option("study", path, "The study file")->required();
  type->add_option("result", what, "57.3, or a range such as '50 to 60'")->required();
  std::string decimal;
  type->add_option("--decimal", decimal, "What parts the decimals of 4,780: comma or point")
      ->check(CLI::IsMember({"comma", "point"}));
  ImportOptions import_options;
  CLI::App* import = app.add_subcommand("import", "File logs from elsewhere as planned passes");
  import->add_option("study", import_options.study_path, "The study file")->required();
  import->add_option("logs", import_options.paths, "The logs, in the order in which they were made")->required();
  import->add_option("--pattern", import_options.pattern, "How they are named: {case}, {level}, {any}");
  auto* level = import->add_option("--level", import_options.level, "The level of all of them");
  import->add_option("--unit", import_options.unit, "In which unit they tell the time: ms, s, us or ns");
  import->add_option("--case", import_options.case_title, "The case of all of them")->needs(level);
  double percent = 0;
  const auto add_act = [&](const char* name, const char* words, const char* first, const char* second) {
    CLI::App* act = app.add_subcommand(name, words);
    act->add_option("study", path, "The study file")->required();
    if (first) act->add_option("about", what, first)->required();
    if (second) act->add_option("text", text, second)->required();
    return act;
  };
  CLI::App* tested =
      add_act("tested", "Record that a level was tested and made no errors", "The level", "How, how long");
  CLI::App* skip = add_act("skip", "Leave the next pass out of the sheet", "Why", nullptr);
  CLI::App* add_round = add_act("add-round", "One more round at the end of a sealed plan", "Why", nullptr);
  CLI::App* extend = add_act("extend", "Extend a finished plan once, by what its spread asks for", nullptr, nullptr);
  CLI::App* copy_to = add_act("copy-to", "Copy the study to a second folder after each pass", "The folder", nullptr);
  CLI::App* accept = add_act("accept", "Accept a doubt; it stays on record", "Its id, as findings print it", "Why");
  CLI::App* note = add_act("note", "A remark for the logbook", "What happened", nullptr);
  CLI::App* repeat = add_act("repeat", "Ask the same question again, in a new study", "The file to make", nullptr);
  CLI::App* confirm = add_act("confirm", "Confirm one case's finding, in a new study", "The file to make", nullptr);
  confirm->add_option("--case", text, "Its title; may be left out where there is only one");
  CLI::App* predict = add_act("predict", "What somebody expects, before the first counted pass", "Who", nullptr);
  predict->add_option("percent", percent, "The change of the headline metric")
      ->required()
      ->check(numberWithin(-100, 1e6, "%"));
  std::string grade;
  CLI::App* explain = app.add_subcommand("explain", "Record why a case's finding is so, with how well that is founded");
  explain->add_option("study", path, "The study file")->required();
  explain->add_option("case", what, "As findings name it")->required();
  explain->add_option("grade", grade, "measured, 'ruled out', conjecture or unexplained")->required();
  explain->add_option("cause", text, "Empty takes it back")->required();
  JudgeOptions judge_options;
  CLI::App* judge = app.add_subcommand("judge-by", "Judge results otherwise than planned; it stays on record");
  judge->add_option("study", judge_options.study_path, "The study file")->required();
  judge->add_option("reason", judge_options.reason, "Why")->required();
  judge->add_option("--threshold", judge_options.threshold_percent, "The change that matters, percent")
      ->check(numberWithin(0, 1000, "%"));
  judge->add_option("--yardstick", judge_options.yardstick, "interval, fixed_band or two_run_to_run_sds");
  judge->add_option("--band", judge_options.band_percent, "Of the fixed band, percent")
      ->check(numberWithin(0.01, 99.99, "%"));
  CLI::App* demo = app.add_subcommand("demo", "Make the demo study and run it on its simulated bench");
  demo->add_option("folder", path, "Where to")->required();
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& e) {
    return badCall(app, e, argc > 1 ? argv[1] : "");
  }

  run_options.is_approved = approve->count() > 0;
  if (approved != "true") run_options.digest = approved;
  ShownStream out(std::cout);
  core::Status done = core::Done{};
  core::Result<ExitCode> ended = ExitCode::Done;
  if (make->parsed())
    done = newCommand(path, design, out);
  else if (run->parsed())
    ended = runCommand(run_options, out);
  else if (plan->parsed())
    done = planCommand(path, minutes, as_json, out);
  else if (resume->parsed() && (installs || removes))
    done = installs ? installResume(out) : removeResume(out);
  else if (resume->parsed())
    ended = resumeCommand(out);
  else if (status->parsed())
    done = statusCommand(path, as_json, out);
  else if (findings->parsed())
    done = findingsCommand(path, as_json, open_because, out);
  else if (report->parsed())
    done = reportCommand(path, page_path);
  else if (compute->parsed())
    done = computeCommand(group, std::cin, out);
  else if (capture->parsed())
    done = captureCommand(capture_options, out);
  else if (diff->parsed())
    done = diffCommand(diff_options, out);
  else if (benches->parsed())
    done = benchesCommand(bench_name, as_json, out);
  else if (state->parsed())
    done = stateCommand(path, what, text);
  else if (unreachable->parsed())
    done = notReachableCommand(path, what, text);
  else if (measure->parsed())
    done = measureCommand(measure_options, out);
  else if (record->parsed())
    ended = recordCommand(record_options, out);
  else if (passes->parsed())
    done = passesCommand(path, as_json, out);
  else if (exclude->parsed())
    done = excludeCommand(path, pass_id, cause);
  else if (type->parsed())
    done = typeCommand(path, what, decimal);
  else if (import->parsed())
    done = importCommand(import_options, out);
  else if (tested->parsed())
    done = testedCommand(path, what, text);
  else if (skip->parsed())
    done = skipCommand(path, what);
  else if (add_round->parsed())
    done = addRoundCommand(path, what);
  else if (extend->parsed())
    done = extendCommand(path, out);
  else if (copy_to->parsed())
    done = copyToCommand(path, what);
  else if (explain->parsed())
    done = explainCommand(path, what, grade, text);
  else if (judge->parsed())
    done = judgeCommand(judge_options);
  else if (accept->parsed())
    done = acceptCommand(path, what, text);
  else if (note->parsed())
    done = noteCommand(path, what);
  else if (repeat->parsed())
    done = repeatCommand(path, what, out);
  else if (confirm->parsed())
    done = confirmCommand(path, what, text, out);
  else if (predict->parsed())
    done = predictCommand(path, what, percent);
  else if (demo->parsed())
    done = demoCommand(path, out);
  if (done && !ended) done = ended.error();
  if (done && !out.flush())
    done =
        core::Error{core::ErrorKind::Io, "not all could be written", "standard output", "Check the disk's free space"};
  if (!done) return static_cast<int>(tell(done.error(), isForScripts(argc, argv)));
  return static_cast<int>(*ended);
}

}  // namespace cli
