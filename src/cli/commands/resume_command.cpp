#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <iostream>

#include <QCoreApplication>

#include "cli/commands.h"
#include "core/values/shown_text.h"
#include "session/user/study_list.h"
#include "session/user/user_files.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
namespace fs = std::filesystem;

constexpr const char* kUnit = "iron-lever-resume.service";

core::Result<fs::path> unitFolder() {
  const char* config = std::getenv("XDG_CONFIG_HOME");
  const char* home = std::getenv("HOME");
  if (config && *config == '/') return fs::path(config) / "systemd" / "user";
  if (home && *home == '/') return fs::path(home) / ".config" / "systemd" / "user";
  return Error{ErrorKind::Missing, "nobody says where your own files are", "HOME", "Set HOME to your own folder"};
}

core::Status failed(const fs::path& path) {
  return Error{ErrorKind::Io, "the unit cannot be written", path.string(), "Check that you may write there"};
}

}  // namespace

core::Result<ExitCode> resumeCommand(std::ostream& out) {
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  const session::StudyList running(files->running);
  const auto studies = running.all();
  if (studies.empty()) out << "No sheet is to go on.\n";
  core::Result<ExitCode> first = ExitCode::Done;
  for (const std::string& study : studies) {
    out << study << '\n' << std::flush;
    std::error_code code;
    if (!fs::exists(study, code)) {
      running.remove(study);
      out << "  it is no longer there\n";
      continue;
    }
    if (study.starts_with(files->studies + "/reached/")) {  // for a desk, which follows it
      const auto ended = benchRunCommand(fs::path(study).parent_path().filename().string(), true);
      if (!ended) std::cerr << core::shownText(ended.error().sentence()) << '\n';
      continue;
    }
    RunOptions options;
    options.study_path = study;
    options.is_resumed = true;
    const auto ended = runCommand(options, out);
    if (!ended) std::cerr << core::shownText(ended.error().sentence()) << '\n';
    if (first && *first == ExitCode::Done) first = ended;
  }
  return first;
}

core::Status installResume(std::ostream& out) {
  const auto place = unitFolder();
  if (!place) return place.error();
  const fs::path& folder = *place;
  const fs::path wants = folder / "default.target.wants";
  std::error_code code;
  fs::create_directories(wants, code);
  std::ofstream unit(folder / kUnit);
  // A line of ExecStart splits at blanks and expands %: the path goes in quotes, with % doubled.
  const std::string program =
      QCoreApplication::applicationFilePath().replace(QLatin1Char('%'), QStringLiteral("%%")).toStdString();
  unit << "[Unit]\nDescription=Goes on with measuring sheets that a restart interrupted\n\n"
       << "[Service]\nType=exec\nExecStart=\"" << program << "\" resume\n\n[Install]\nWantedBy=default.target\n";
  unit.close();
  if (!unit) return failed(folder / kUnit);
  fs::remove(wants / kUnit, code);
  fs::create_symlink(fs::path("..") / kUnit, wants / kUnit, code);
  if (code) return failed(wants / kUnit);
  out << "Installed " << (folder / kUnit).string()
      << ". It goes on with sheets when you log in; to have it without a login: loginctl enable-linger\n"
         "Take it away with: iron-lever-cli resume --remove\n";
  return core::Done{};
}

core::Status removeResume(std::ostream& out) {
  const auto folder = unitFolder();
  if (!folder) return folder.error();
  std::error_code code;
  fs::remove(*folder / "default.target.wants" / kUnit, code);
  fs::remove(*folder / kUnit, code);
  if (fs::exists(*folder / kUnit)) return failed(*folder / kUnit);
  out << "Removed.\n";
  return core::Done{};
}

}  // namespace cli
