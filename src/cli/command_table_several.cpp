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
