// Commands that are about no single study: the cabinet, studies beside each other, sums for planning.
#include "cli/command_table.h"
#include "cli/options.h"

namespace cli {

void Commands::addBeside() {
  CLI::App* cabinet = add("cabinet", "List the studies on your disks, each with its sentence, found by words",
                          [](const Given& said, std::ostream& out) {
                            CabinetOptions options = said.cabinet_options;
                            for (const std::string& word : said.words) options.words += word + ' ';
                            return ended(cabinetCommand(options, out));
                          });
  cabinet->add_option("words", given_.words, "Every one of them, as a word's beginning");
  cabinet->add_option("--add", given_.cabinet_options.added, "A folder whose studies are listed from now on");
  cabinet->add_option("--remove", given_.cabinet_options.removed, "A folder whose studies are not");
  cabinet->add_flag("--json", given_.cabinet_options.as_json, "Print JSON");
  BesideOptions& o = given_.beside_options;
  CLI::App* beside =
      add("beside", "Lay studies beside each other: the same question then and now, levels, a table",
          [](const Given& said, std::ostream& out) { return ended(besideCommand(said.beside_options, out)); });
  beside->add_option("studies", o.studies, "Two study files or more, or a NAME.beside.json")->required();
  beside->add_option("--level", o.level, "This level of each against that of the first; of a table the level shown");
  beside->add_option("--rows", o.rows, "A table: a fact that differs between the benches, or bench");
  beside->add_option("--columns", o.columns, "A table: another fact, or level");
  beside->add_option("--case", o.case_title, "The case that a table shows; else the first that all have");
  beside->add_option("--match", o.matched, "A case of another title is the same: THEIRS=OURS");
  beside->add_option("--meant", o.meant, "What differs between the benches on purpose: a fact, * for any text");
  beside->add_option("--accept", o.accepted, "A fact or a held condition may differ as well: FACT=WHY");
  beside->add_option("--reference", o.references, "A number from elsewhere: 'NAME; SOURCE; NUMBER; UNIT; DAY'");
  beside->add_option("--remark", o.remarks, "Something to be kept with it");
  beside->add_option("--out", o.out_path,
                     "Keep it as NAME.beside.json, or write it as .html, .pdf, .svg, .csv or .json");
  beside->add_flag("--json", o.as_json, "Print JSON");
  CLI::App* bundle = add("bundle", "Seal a study with all that follows from it in one zip that can be checked",
                         [](const Given& said, std::ostream& out) {
                           return ended(bundleCommand(said.path, said.page_path, said.words, said.as_json, out));
                         });
  bundle->add_option("study", given_.path, "The study file")->required();
  bundle->add_option("--out", given_.page_path, "Where to, for example memory-speed.zip")->required();
  bundle->add_option("--keep", given_.words, "What is not called by number: host,serials,people,paths,pictures")
      ->delimiter(',');
  bundle->add_flag("--json", given_.as_json, "Print JSON");
  CLI::App* verify = add("verify", "Work out everything in a sealed bundle again; 1 where anything differs",
                         [](const Given& said, std::ostream& out) -> core::Result<ExitCode> {
                           const auto is_whole = verifyCommand(said.path, said.as_json, out);
                           if (!is_whole) return is_whole.error();
                           return *is_whole ? ExitCode::Done : ExitCode::Failed;
                         });
  verify->add_option("bundle", given_.path, "The zip")->required();
  verify->add_flag("--json", given_.as_json, "Print JSON");
  DeskOptions& d = given_.desk_options;
  CLI::App* desk = add("desk", "Sums for planning: links, memory, waits, percent, energy; alone it lists them",
                       [](const Given& said, std::ostream& out) { return ended(deskCommand(said.desk_options, out)); });
  desk->add_option("ask", d.ask, "Which of them");
  desk->add_option("numbers", d.numbers, "Its numbers: generation=4 lanes=8; several of one with commas");
  desk->add_flag("--json", d.as_json, "Print JSON");
}

void Commands::addNextStudies() {
  CLI::App* repeat = addAct("repeat", "Ask the same question again, in a new study", "The file to make", nullptr,
                            [](const Given& said, std::ostream& out) {
                              return ended(repeatCommand(said.path, said.what, said.asks_lower, out));
                            });
  repeat->add_flag("--lower", given_.asks_lower, "Ask instead what the level below the study's lowest would say");
  CLI::App* confirm = addAct(
      "confirm", "Confirm one case's finding, in a new study", "The file to make", nullptr,
      [](const Given& said, std::ostream& out) { return ended(confirmCommand(said.path, said.what, said.text, out)); });
  confirm->add_option("--case", given_.text, "Its title; may be left out where there is only one");
}

void Commands::addPractice() {
  PracticeOptions& o = given_.practice_options;
  CLI::App* practice =
      add("practice", "Learn to tell a gain from a lucky restart, on benches with a hidden truth",
          [](const Given& said, std::ostream& out) { return ended(practiceCommand(said.practice_options, out)); });
  practice->require_subcommand(1);
  const auto act = [&o, practice](const char* name, const char* words, PracticeAct which) {
    CLI::App* one = practice->add_subcommand(name, words);
    one->parse_complete_callback([&o, which] { o.act = which; });
    return one;
  };
  CLI::App* list = act("list", "The exercises, from easy to hard", PracticeAct::List);
  CLI::App* start = act("start", "Make a bench whose truth is drawn now, and a study on it", PracticeAct::Start);
  start->add_option("exercise", o.exercise, "Its id, or a file")->required();
  start->add_option("folder", o.folder, "A new folder for both")->required();
  start->add_option("--pace", o.pace, "1: passes take as long as at a real bench; 0: as little as they can")
      ->check(numberWithin(0, 10, ""));
  start->add_option("--order", o.order, "In which order levels are visited")
      ->check(CLI::IsMember({"rounds", "there_and_back", "blocked"}));
  start->add_option("--rounds", o.rounds, "How many; of the other orders, passes at each level")
      ->check(numberWithin(1, 500, "rounds"));
  start->add_option("--passes", o.passes_per_visit, "In each visit of a round")->check(numberWithin(1, 100, "passes"));
  start->add_option("--effect", o.effect, "Of free practice: what is true, %")->check(numberWithin(-50, 100, "%"));
  start->add_option("--noise", o.noise, "Of free practice: from pass to pass, %")->check(numberWithin(0, 20, "%"));
  start->add_option("--flips", o.flips, "Of free practice: what a flip adds, %")->check(numberWithin(0, 20, "%"));
  CLI::App* sign = act("sign", "Sign what you claim; once", PracticeAct::Sign);
  sign->add_option("folder", o.folder, "The exercise's folder")->required();
  sign->add_option("--percent", o.percent, "By how many percent")->required();
  sign->add_option("--lo", o.lo, "The lower end of your interval, %")->required();
  sign->add_option("--hi", o.hi, "The upper end, %")->required();
  sign->add_option("--recommend", o.recommend, "use, keep or cannot_say")->required();
  sign->add_option("--doubts", o.doubts, "Which doubts you dealt with");
  CLI::App* reveal = act("reveal", "What was true, and what the plan was worth; after signing", PracticeAct::Reveal);
  reveal->add_option("folder", o.folder, "The exercise's folder")->required();
  CLI::App* record = act("record", "How often your claims held so far", PracticeAct::Record);
  act("forget", "Delete that record", PracticeAct::Forget);
  CLI::App* seal = act("seal", "Seal the truth of an exercise of your own", PracticeAct::Seal);
  seal->add_option("exercise", o.exercise, "The file (JSON)")->required();
  seal->add_option("out", o.folder, "The sealed file to write")->required();
  for (CLI::App* one : {list, start, sign, reveal, record}) one->add_flag("--json", o.as_json, "Print JSON");
}

// Benches that are other computers, and what else follows a sheet from afar.
void Commands::addReached(CLI::App& run) {
  run.add_option("--progress", given_.progress, "json: print one JSON object a line")->check(CLI::IsMember({"json"}));
  add("bench-end", "The end of a desk's connection over ssh: speaks on standard input and output",
      [](const Given&, std::ostream&) { return ended(benchEndCommand()); });
  CLI::App* bench_run = add("bench-run", "Run the sheet of a study that a desk brought; bench-end starts it",
                            [](const Given& said, std::ostream&) { return benchRunCommand(said.what); });
  bench_run->add_option("study", given_.what, "Its identity")->required();
}

}  // namespace cli
