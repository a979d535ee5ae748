#include <poll.h>
#include <unistd.h>

#include <QCoreApplication>
#include <algorithm>
#include <csignal>
#include <iostream>
#include <string_view>

#include <CLI/CLI.hpp>

#include "cli/command_table.h"
#include "cli/commands/shown_stream.h"
#include "cli/options.h"
#include "core/values/fault.h"
#include "core/values/number_text.h"
#include "core/values/shown_text.h"
#include "session/user/guarded.h"
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

// A pipe that nobody reads any more is no full disk.
bool isReaderGone() {
  pollfd standard_output{STDOUT_FILENO, POLLOUT, 0};
  return ::poll(&standard_output, 1, 0) == 1 && (standard_output.revents & POLLERR) != 0;
}

}  // namespace

core::Result<ExitCode> guarded(const std::function<core::Result<ExitCode>()>& run) {
  try {
    return run();
  } catch (const std::exception& thrown) {
    return core::faultOf(thrown, "");
  }
}

int runCommandLine(int argc, char** argv) {
  session::Guarded<QCoreApplication> application(argc, argv);
  application.setOnFault([](const core::Error&) { QCoreApplication::exit(static_cast<int>(ExitCode::Failed)); });
  core::keepPlainLocale();
  std::signal(SIGPIPE, SIG_IGN);  // who no longer reads is told by the stream; settings are put back first
  CLI::App app("Iron Lever: what one platform variable changes, in percent, and how sure");
  app.set_version_flag("--version", "iron-lever-cli " IRON_LEVER_VERSION);
  const Commands commands(app);
  try {
    // A script whose digest is missing would approve whatever stands there.
    if (std::any_of(argv, argv + argc, [](const char* word) { return std::string_view(word) == "--approve="; }))
      throw CLI::ValidationError("--approve=", "an empty digest approves nothing; pass on the one that was printed");
    app.parse(argc, argv);
  } catch (const CLI::ParseError& e) {
    return badCall(app, e, argc > 1 ? argv[1] : "");
  }
  ShownStream out(std::cout);
  core::Result<ExitCode> ended = guarded([&] { return commands.run(out); });
  if (application.fault()) ended = *application.fault();
  if (ended && !out.flush()) {
    if (isReaderGone()) return static_cast<int>(ExitCode::Stopped);  // `| head` has what it wanted
    ended =
        core::Error{core::ErrorKind::Io, "not all could be written", "standard output", "Check the disk's free space"};
  }
  if (!ended) return static_cast<int>(tell(ended.error(), isForScripts(argc, argv)));
  return static_cast<int>(*ended);
}

}  // namespace cli
