#include "cli/command_table.h"

#include <iostream>

#include "cli/options.h"
#include "session/sheet/demo_study.h"

namespace cli {
namespace {

std::vector<std::string> demoIds() {
  std::vector<std::string> ids;
  for (const session::DemoStudy& one : session::demoStudies()) ids.emplace_back(one.id);
  return ids;
}

RunOptions runOptionsOf(const Given& said) {
  RunOptions options = said.run_options;
  options.is_approved = !said.approved.empty();
  options.tells_json = said.progress == "json";
  if (said.approved != "true") options.digest = said.approved;  // a bare flag
  return options;
}

}  // namespace

core::Result<ExitCode> ended(const core::Status& done) {
  if (!done) return done.error();
  return ExitCode::Done;
}

Commands::Commands(CLI::App& app) : app_(app) {
  app.require_subcommand(1);
  given_.demo_id = demoIds().front();
  addStudies();
  addFound();
  addPasses();
  addActs();
  addJudging();
  addBeside();
  addPractice();
  addFrames();
  addBenches();
}

core::Result<ExitCode> Commands::run(std::ostream& out) const {
  return acts_.at(app_.get_subcommands().front())(given_, out);
}

CLI::App* Commands::add(const char* name, const char* words, Act act) {
  CLI::App* command = app_.add_subcommand(name, words);
  acts_[command] = std::move(act);
  return command;
}

CLI::App* Commands::addAct(const char* name, const char* words, const char* first, const char* second, Act act) {
  CLI::App* command = add(name, words, std::move(act));
  command->add_option("study", given_.path, "The study file")->required();
  if (first) command->add_option("about", given_.what, first)->required();
  if (second) command->add_option("text", given_.text, second)->required();
  return command;
}

void Commands::addStudies() {
  Given& g = given_;
  CLI::App* make = add("new", "Make a study file from a design", [](const Given& said, std::ostream& out) {
    return ended(newCommand(said.path, said.design, out));
  });
  make->add_option("study", g.path, "The file to make")->required();
  make->add_option("--design", g.design, "The design (JSON)")->required();
  CLI::App* run = add("run", "Run a study, or go on where it stood",
                      [](const Given& said, std::ostream& out) { return runCommand(runOptionsOf(said), out); });
  run->add_option("study", g.run_options.study_path, "The study file")->required();
  // A flag that may carry a value behind =, so that the study may stand on either side of it.
  run->add_flag("--approve", g.approved,
                "I have read what this study does and approve it; --approve=DIGEST: exactly that");
  run->add_flag("--repeat-failed", g.run_options.repeats_failed, "Try failed passes once more");
  run->add_flag("--quiet", g.run_options.is_quiet, "Print no line for each pass");
  addReached(*run);
  CLI::App* search =
      add("search", "Look for the highest stable step before the first pass: up, a test for errors, down",
          [](const Given& said, std::ostream& out) {
            SearchOptions options = said.search_options;
            options.run = runOptionsOf(said);
            return searchCommand(options, out);
          });
  search->add_option("study", g.run_options.study_path, "The study file; its levels are the steps, weak to strong")
      ->required();
  search->add_flag("--approve", g.approved,
                   "I have read what this study does and approve it; --approve=DIGEST: exactly that");
  search->add_flag("--set", g.search_options.is_set, "The bench is at the next step now: I have set it");
  search->add_flag("--attended", g.search_options.is_attended, "I stay with it, also beyond what the maker set");
  search->add_flag("--json", g.search_options.is_json, "Print JSON");
  CLI::App* plan = add("plan", "Print what a study's plan costs and buys, and which is enough",
                       [](const Given& said, std::ostream& out) {
                         return ended(planCommand(said.path, said.minutes, said.as_json, out));
                       });
  plan->add_option("study", g.path, "The study file")->required();
  plan->add_option("--minutes", g.minutes, "The best plan within so many minutes instead")
      ->check(numberWithin(1, 1e6, "minutes"));
  plan->add_flag("--json", g.as_json, "Print JSON");
  CLI::App* status = add("status", "Print where a study's sheet stands", [](const Given& said, std::ostream& out) {
    return ended(statusCommand(said.path, said.as_json, out));
  });
  status->add_option("study", g.path, "The study file")->required();
  status->add_flag("--json", g.as_json, "Print JSON");
  CLI::App* resume = add("resume", "Go on with every sheet that a restart interrupted",
                         [](const Given& said, std::ostream& out) -> core::Result<ExitCode> {
                           if (said.installs || said.removes)
                             return ended(said.installs ? installResume(out) : removeResume(out));
                           return resumeCommand(out);
                         });
  auto* install_flag =
      resume->add_flag("--install", g.installs, "Do so at each start, by a systemd unit for this user");
  resume->add_flag("--remove", g.removes, "Take that unit away")->excludes(install_flag);
}

void Commands::addFound() {
  Given& g = given_;
  CLI::App* findings = add("findings", "Print what a study found", [](const Given& said, std::ostream& out) {
    return ended(
        findingsCommand({said.path, said.as_json, said.is_short, said.open_because, said.what, said.text}, out));
  });
  findings->add_option("study", g.path, "The study file")->required();
  findings->add_flag("--json", g.as_json, "Print JSON");
  findings->add_flag("--short", g.is_short, "Print the claim and the verdicts alone");
  auto* between = findings->add_option("--between", g.what, "Any two configurations: the one that is compared with");
  auto* and_level = findings->add_option("--and", g.text, "And the other")->needs(between);
  between->needs(and_level);
  findings->add_option("--open", g.open_because, "Open sealed results early, for this reason; it is recorded");
  CLI::App* report =
      add("report", "Write what a study found: a page, a PDF, plain text, tables, numbers or its chart",
          [](const Given& said, std::ostream&) { return ended(reportCommand(said.path, said.report_options)); });
  ReportOptions& of_report = g.report_options;
  report->add_option("study", g.path, "The study file")->required();
  report->add_option("--out", of_report.out_path, "Where to, for example report.html")->required();
  report->add_flag("--pictures", of_report.has_pictures, "Show the pictures that were kept of its visits");
  report->add_flag("--names", of_report.names_people, "Name the people who expected or explained something");
  report->add_option("--template", of_report.made_by, "Make the page by full, short, hurry, or one of your own");
  report->add_option("--parts", of_report.parts, "The parts of the page in order, with commas between");
  report->add_option("--own-words", of_report.own_words,
                     "A file of plain text for the page, with # headings and - lists");
  report->add_option("--keep-as", of_report.kept_as, "Keep parts and words as a template of your own");
  report->add_flag("--night", of_report.is_night, "Light on dark");
  auto* talk = report->add_flag("--talk", of_report.is_talk, "Pictures for a talk, one finding each: NAME-1.png, …");
  report->add_flag("--phone", of_report.is_phone, "One tall picture for a phone")->excludes(talk);
  CLI::App* pictures =
      add("pictures", "List the pictures that were kept of a study's visits", [](const Given& said, std::ostream& out) {
        return ended(picturesCommand(said.path, said.what, said.as_json, out));
      });
  pictures->add_option("study", g.path, "The study file")->required();
  pictures->add_option("--to", g.what, "Write each into this folder, too");
  pictures->add_flag("--json", g.as_json, "Print JSON");
  CLI::App* sheet =
      add("print-sheet", "Write the run sheet as a page to be printed",
          [](const Given& said, std::ostream&) { return ended(printSheetCommand(said.path, said.page_path)); });
  sheet->add_option("study", g.path, "The study file")->required();
  sheet->add_option("--out", g.page_path, "Where to, for example sheet.html")->required();
  CLI::App* rights =
      add("rights", "Find by trials without which rights the cases of a study still run",
          [](const Given& said, std::ostream& out) { return ended(rightsCommand(said.path, said.as_json, out)); });
  rights->add_option("study", g.path, "The study file")->required();
  rights->add_flag("--json", g.as_json, "Print JSON");
  CLI::App* personal =
      add("personal", "List what of a study tells of people and their machines",
          [](const Given& said, std::ostream& out) { return ended(personalCommand(said.path, said.as_json, out)); });
  personal->add_option("study", g.path, "The study file")->required();
  personal->add_flag("--json", g.as_json, "Print JSON");
  CLI::App* demo =
      add("demo", "Make the demo study and run it on its simulated bench",
          [](const Given& said, std::ostream& out) { return ended(demoCommand(said.path, said.demo_id, out)); });
  demo->add_option("folder", g.path, "Where to")->required();
  demo->add_option("--study", g.demo_id, "Which of them; the first where nothing is said")
      ->check(CLI::IsMember(demoIds()));
}

void Commands::addBenches() {
  Given& g = given_;
  CLI::App* compute =
      add("compute", "One calculation: JSON on standard input, JSON out",
          [](const Given& said, std::ostream& out) { return ended(computeCommand(said.group, std::cin, out)); });
  compute->add_option("group", g.group, "Which calculation; an unknown one lists them")->required();
  CLI::App* capture =
      add("capture", "Read everything that this machine says about itself",
          [](const Given& said, std::ostream& out) { return ended(captureCommand(said.capture_options, out)); });
  capture->add_option("--root", g.capture_options.root, "A folder that stands for a machine, with its proc and sys");
  capture->add_option("--reach", g.capture_options.reach, "here, ssh:NAME or folder:PATH");
  capture->add_option("--ssh-config", g.capture_options.ssh_config, "A configuration that ssh is handed");
  capture->add_option("--root-facts", g.capture_options.root_facts, "The folder that iron-lever-root-facts wrote");
  capture->add_option("--device", g.capture_options.device, "PCI address of the device under test");
  capture->add_flag("--json", g.capture_options.as_json, "Print JSON");
  CLI::App* diff = add("diff", "Compare two captures: did the variable move, and what moved with it",
                       [](const Given& said, std::ostream& out) { return ended(diffCommand(said.diff_options, out)); });
  diff->add_option("baseline", g.diff_options.baseline_path, "A capture (JSON)")->required();
  diff->add_option("changed", g.diff_options.changed_path, "A capture (JSON)")->required();
  diff->add_option("--variable", g.diff_options.kind, "The kind of variable; an unknown one lists them")->required();
  diff->add_option("--device", g.diff_options.device, "PCI address of the device under test");
  diff->add_option("--field", g.diff_options.fields, "For 'other': a fact that must change; * stands for any text");
  diff->add_flag("--json", g.diff_options.as_json, "Print JSON");
  CLI::App* benches =
      add("benches", "List the benches that were worked on, or what one was when",
          [](const Given& said, std::ostream& out) { return ended(benchesCommand(said.benches_options, out)); });
  BenchesOptions& of_bench = g.benches_options;
  auto* bench = benches->add_option("bench", of_bench.bench, "One of them");
  benches->add_flag("--repeatability", of_bench.is_repeatability, "How repeatable each case was on it instead")
      ->needs(bench);
  benches->add_flag("--papers", of_bench.are_papers, "What is written down about it instead, each with its number")
      ->needs(bench);
  auto* text = benches->add_option("--text", of_bench.text, "What the paper says");
  benches->add_option("--add-paper", of_bench.added_kind, "Write down: support_list, lowest_firmware, lent or remark")
      ->needs(bench)
      ->needs(text);
  benches->add_option("--until", of_bench.until, "The day until which it holds, such as 2027-01-15")->needs(text);
  benches->add_option("--remove-paper", of_bench.removed_paper, "Take the paper of this number away")->needs(bench);
  benches->add_option("--was", of_bench.was, "It is the bench that was called so: what is known of that is its own")
      ->needs(bench);
  benches->add_option("--is-not", of_bench.is_not, "It is another bench, or has another part, than this one")
      ->needs(bench);
  benches
      ->add_option("--part-from", of_bench.part_from, "What it has of this bench's model was carried over from there")
      ->needs(bench);
  benches->add_flag("--json", of_bench.as_json, "Print JSON");
  CLI::App* state =
      add("state", "Record what only you know about a study's bench",
          [](const Given& said, std::ostream&) { return ended(stateCommand(said.path, said.what, said.text)); });
  state->add_option("study", g.path, "The study file")->required();
  state->add_option("fact", g.what, "room_temperature, cooler, cable ...; an unknown one lists them")->required();
  state->add_option("value", g.text, "Empty takes it back")->required();
  CLI::App* unreachable =
      add("not-reachable", "Record that a level cannot be reached: a result",
          [](const Given& said, std::ostream&) { return ended(notReachableCommand(said.path, said.what, said.text)); });
  unreachable->add_option("study", g.path, "The study file")->required();
  unreachable->add_option("level", g.what, "Its name")->required();
  unreachable->add_option("reason", g.text, "What was tried, and what happened")->required();
}

void Commands::addFrames() {
  Given& g = given_;
  CLI::App* measure =
      add("measure", "Read a log of frames of any shape, and print what it says",
          [](const Given& said, std::ostream& out) { return ended(measureCommand(said.measure_options, out)); });
  measure->add_option("log", g.measure_options.path, "Delimited text, JSON lines, or one number a line")->required();
  auto* column = measure->add_option("--column", g.measure_options.column, "The time column");
  measure->add_flag("--stamps", g.measure_options.are_stamps, "That column holds moments, not durations")
      ->needs(column);
  measure->add_option("--unit", g.measure_options.unit, "s, ms, us or ns");
  measure->add_option("--target", g.measure_options.target_fps, "The target rate, FPS")
      ->check(numberWithin(1, 10000, "FPS"));
  measure->add_flag("--json", g.measure_options.as_json, "Print JSON");
  CLI::App* record = add("record", "Run a program and record its frames, without its help",
                         [](const Given& said, std::ostream& out) { return recordCommand(said.record_options, out); });
  record->add_option("command", g.record_options.command, "The program and its arguments, after --")->required();
  record->add_option("--out", g.record_options.out_path, "Where the frame times go");
  auto* seconds =
      record->add_option("--seconds", g.record_options.seconds, "Record this many seconds, then end the program")
          ->check(numberWithin(0.1, 86400, "s"));
  record->add_option("--frames", g.record_options.frames, "Record this many frames, then end the program")
      ->check(numberWithin(1, 1e9, "frames"))
      ->excludes(seconds);
  record->add_flag("--start-key", g.record_options.has_start_key,
                   "Count from the moment at which Ctrl+Alt+Space is pressed, not from the first frame");
  record->add_option(
      "--program", g.record_options.program,
      "The program whose frames count, or the title of its window; otherwise the program with most frames");
  record->add_flag("--device-time", g.record_options.has_device_time,
                   "Also time the graphics device's work on each frame; it hands the device commands of ours");
  record->add_flag("--quiet", g.record_options.is_quiet, "Keep what the program prints off the terminal");
  record->add_option("--target", g.record_options.target_fps, "The target rate, FPS")
      ->check(numberWithin(1, 10000, "FPS"));
  record->add_flag("--json", g.record_options.as_json, "Print JSON");
}

void Commands::addPasses() {
  Given& g = given_;
  CLI::App* passes = add("passes", "Print every pass of a study", [](const Given& said, std::ostream& out) {
    return ended(passesCommand(said.path, said.as_json, out));
  });
  passes->add_option("study", g.path, "The study file")->required();
  passes->add_flag("--json", g.as_json, "Print JSON");
  CLI::App* printed =
      add("printed", "Print what a pass printed, and what ran beside it", [](const Given& said, std::ostream& out) {
        return ended(printedCommand(said.path, said.pass_id, said.as_json, out));
      });
  printed->add_option("study", g.path, "The study file")->required();
  printed->add_option("pass", g.pass_id, "Its id, as `passes` prints it")->required();
  printed->add_flag("--json", g.as_json, "Print JSON");
  CLI::App* exclude =
      add("exclude", "Leave a pass out of every result, for a physical cause",
          [](const Given& said, std::ostream&) { return ended(excludeCommand(said.path, said.pass_id, said.cause)); });
  exclude->add_option("study", g.path, "The study file")->required();
  exclude->add_option("pass", g.pass_id, "Its id, as `passes` prints it")->required();
  exclude->add_option("cause", g.cause, "Its number; an unknown one lists them; 0 takes it back")->required();
  CLI::App* type = add("type", "Enter the result of the next pass that is run by hand",
                       [](const Given& said, std::ostream& out) { return ended(typeCommand(said.type_options, out)); });
  TypeOptions& of_type = g.type_options;
  type->add_option("study", of_type.study_path, "The study file")->required();
  type->add_option("result", of_type.result, "57.3, or a range such as '50 to 60'; or why it does not run")->required();
  type->add_flag("--does-not-run", of_type.does_not_run, "It does not run there: a result, with its reason");
  type->add_option("--condition", of_type.conditions, "It runs, but: what it took, such as 'after a restart'");
  type->add_flag("--json", of_type.as_json, "Print JSON");
  type->add_option("--decimal", of_type.decimal, "What parts the decimals of 4,780: comma or point")
      ->check(CLI::IsMember({"comma", "point"}));
  CLI::App* import =
      add("import", "File logs from elsewhere as planned passes",
          [](const Given& said, std::ostream& out) { return ended(importCommand(said.import_options, out)); });
  import->add_option("study", g.import_options.study_path, "The study file")->required();
  import->add_option("logs", g.import_options.paths, "The logs, in the order in which they were made")->required();
  import->add_option("--pattern", g.import_options.pattern, "How they are named: {case}, {level}, {any}");
  auto* level = import->add_option("--level", g.import_options.level, "The level of all of them");
  import->add_option("--unit", g.import_options.unit, "In which unit they tell the time: ms, s, us or ns");
  import->add_option("--case", g.import_options.case_title, "The case of all of them")->needs(level);
}

void Commands::addActs() {
  Given& g = given_;
  addAct("tested", "Record that a level was tested and made no errors", "The level", "How, how long",
         [](const Given& said, std::ostream&) { return ended(testedCommand(said.path, said.what, said.text)); });
  addAct("skip", "Skip the next pass of the sheet", "Why", nullptr,
         [](const Given& said, std::ostream&) { return ended(skipCommand(said.path, said.what)); });
  addAct("measure-anyway", "Measure a level that the bench contradicts all the same", "How you know that it is set",
         nullptr, [](const Given& said, std::ostream&) { return ended(measureAnywayCommand(said.path, said.what)); });
  addAct("repeat-visit", "Set and measure a visit that is left out once more", "Its number on the sheet", "Why",
         [](const Given& said, std::ostream&) { return ended(repeatVisitCommand(said.path, said.what, said.text)); });
  addAct("stop-at-look", "End the study at the interim look at which it stands", nullptr, nullptr,
         [](const Given& said, std::ostream&) { return ended(stopAtLookCommand(said.path)); });
  addAct("add-round", "One more round at the end of a sealed plan", "Why", nullptr,
         [](const Given& said, std::ostream&) { return ended(addRoundCommand(said.path, said.what)); });
  addAct("extend", "Extend a finished plan once, by what its spread asks for", nullptr, nullptr,
         [](const Given& said, std::ostream& out) { return ended(extendCommand(said.path, out)); });
  CLI::App* add_cases =
      addAct("add-cases", "Add cases to a complete plan, in a second part with rounds of its own",
             "The cases (JSON, as a design lists them)", "Why", [](const Given& said, std::ostream& out) {
               return ended(addCasesCommand(said.path, said.what, said.rounds, said.text, out));
             });
  add_cases->add_option("--rounds", g.rounds, "How many")->check(numberWithin(3, 500, "rounds"));
  CLI::App* take =
      addAct("take", "Take a level's passes from an earlier study of the bench, in place of measuring it again",
             "The level", "The earlier study file", [](const Given& said, std::ostream& out) {
               return ended(takeCommand(said.path, said.what, said.text, said.called, out));
             });
  take->add_option("--called", g.called, "What the level is called there; else as here");
  CLI::App* tick = addAct(
      "tick", "Tick a point of the checklist for the flip that is due", "The point, as the card says it", nullptr,
      [](const Given& said, std::ostream&) { return ended(tickCommand(said.path, said.what, said.removes)); });
  tick->add_flag("--undo", g.removes, "It is not done after all");
  addAct("picture", "Keep a picture of how the bench was set up for a visit", "The visit's number on the sheet",
         "The picture (PNG or JPEG)",
         [](const Given& said, std::ostream&) { return ended(pictureCommand(said.path, said.what, said.text)); });
  addAct("copy-to", "Copy the study to a second folder after each pass", "The folder", nullptr,
         [](const Given& said, std::ostream&) { return ended(copyToCommand(said.path, said.what)); });
  addAct("accept", "Accept a doubt; it stays on record", "Its id, as findings print it", "Why",
         [](const Given& said, std::ostream&) { return ended(acceptCommand(said.path, said.what, said.text)); });
  CLI::App* note = addAct(
      "note", "A remark for the logbook", "What happened", nullptr,
      [](const Given& said, std::ostream&) { return ended(noteCommand(said.path, said.what, said.note_options)); });
  note->add_flag("--observed", g.note_options.is_observed,
                 "It was noticed beside what is measured, and stands in the report");
  note->add_option("--picture", g.note_options.picture, "A picture of it (PNG or JPEG), kept in the study");
  addNextStudies();
  CLI::App* predict = addAct(
      "predict", "What somebody expects, before the first counted pass", "Who", nullptr,
      [](const Given& said, std::ostream&) { return ended(predictCommand(said.path, said.what, said.percent)); });
  predict->add_option("percent", g.percent, "The change of the headline metric")
      ->required()
      ->check(numberWithin(-100, 1e6, "%"));
}

void Commands::addJudging() {
  Given& g = given_;
  CLI::App* explain = add("explain", "Record why a case's finding is so, and the evidence for it",
                          [](const Given& said, std::ostream&) {
                            return ended(explainCommand(said.path, said.what, said.grade, said.text));
                          });
  explain->add_option("study", g.path, "The study file")->required();
  explain->add_option("case", g.what, "As findings name it")->required();
  explain->add_option("grade", g.grade, "measured, 'ruled out', conjecture or unexplained")->required();
  explain->add_option("cause", g.text, "Empty takes it back")->required();
  CLI::App* judge = add("judge-by", "Judge results differently from the plan; it stays on record",
                        [](const Given& said, std::ostream&) { return ended(judgeCommand(said.judge_options)); });
  judge->add_option("study", g.judge_options.study_path, "The study file")->required();
  judge->add_option("reason", g.judge_options.reason, "Why")->required();
  judge->add_option("--threshold", g.judge_options.threshold_percent, "The threshold, percent")
      ->check(numberWithin(0, 1000, "%"));
  judge
      ->add_option("--threshold-ms", g.judge_options.threshold_ms, "And in ms per frame; the larger one holds; 0: none")
      ->check(numberWithin(0, 1000, "ms"));
  judge->add_option("--yardstick", g.judge_options.yardstick, "interval, fixed_band or two_run_to_run_sds");
  judge->add_option("--band", g.judge_options.band_percent, "Of the fixed band, percent")
      ->check(numberWithin(0.01, 99.99, "%"));
}

}  // namespace cli
