#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <stop_token>
#include <string>
#include <utility>
#include <vector>

#include "session/far/reached_study.h"
#include "session/far/ssh_link.h"
#include "session/study/act_programs.h"
#include "session/study/open_study.h"
#include "session/user/user_files.h"

namespace session {

/// How ssh is asked for a study's bench.
[[nodiscard]] SshLink::To sshTo(const core::Study& study, const std::string& folder);

/// The sheet of a study whose bench is another computer, as the desk sees it. The sheet itself runs there, in a copy of
/// the study, by the program there: a connection that breaks, or a desk that is switched off, ends nothing. What it
/// files is taken into the study here, each thing once.
class FarSheet {
 public:
  /// What whoever follows a sheet wants next.
  enum class Wish { GoOn, Stop, Leave };
  /// What the program there says, as it stands in its log: one JSON object, see docs/command-line.md.
  using Said = std::function<void(const FarJson& event)>;

  /// Both outlive it. `wish` is asked twice a second; `end` asked for from another thread ends whatever is waited for.
  FarSheet(OpenStudy& open, const UserFiles& files, std::function<Wish()> wish, std::stop_token end = {})
      : open_(open), files_(files), wish_(std::move(wish)), end_(std::move(end)) {}

  /// Errors as SshLink::open; NotApproved where nobody on this machine has approved that ssh is started for it
  core::Status connect();
  [[nodiscard]] const FarHello& hello() const { return link_->hello(); }
  [[nodiscard]] const core::ClockDifference& clocks() const { return clocks_; }

  /// What the study does there and nobody has approved there, for reading, and the digest by which exactly that is
  /// approved. Errors of the link
  struct ActsThere {
    std::vector<std::string> sentences;
    std::string digest;
  };
  [[nodiscard]] core::Result<ActsThere> actsThere();
  /// Does its sheet run there, also for somebody else? Errors of the link
  [[nodiscard]] core::Result<bool> isRunning();
  /// Takes in what was filed there; nothing where the study was never there. How many passes came.
  /// Errors of the link and of the study file; NotAllowed where both went on by themselves
  [[nodiscard]] core::Result<int> fetch();
  /// The same as its sheet ends, with both clocks compared once more for the logbook.
  [[nodiscard]] core::Result<int> fetchAtEnd();
  /// Brings the study there, as it is now, and starts its sheet. Errors of the link; what is said there
  core::Status start(const ReachedOrder& order);
  /// Follows the sheet until it has ended, was stopped, or is left to itself. A connection that breaks is made anew,
  /// for a quarter of an hour; a bench that has restarted, or is about to by a command of its sheet, goes on with the
  /// sheet. The exit code with which it ended
  /// there; nothing where it was left. Errors of the link; what the sheet was ended by
  [[nodiscard]] core::Result<std::optional<int>> follow(const ReachedOrder& order, const Said& said);

 private:
  [[nodiscard]] core::Status checkApproved() const;
  [[nodiscard]] std::string identity() const { return open_.file().identity(); }
  core::Status tell(const FarJson& said, const Said& take);
  core::Status hear(const Said& said);
  core::Status reconnect(const core::Error& lost);
  core::Status goOnThere(const ReachedOrder& order);
  [[nodiscard]] core::Result<bool> awaitRestart();
  [[nodiscard]] core::Result<FarJson> askWhenBack(const char* what);
  core::Status take(const std::string& copy);
  [[nodiscard]] FarJson asked(const char* what) const { return {{"do", what}, {"study", identity()}}; }

  OpenStudy& open_;
  const UserFiles& files_;
  std::function<Wish()> wish_;
  std::stop_token end_;
  std::unique_ptr<SshLink> link_;
  core::ClockDifference clocks_;
  std::string path_there_;
  std::size_t told_ = 0;          ///< lines of its log
  std::size_t heard_ = 0;         ///< of them, since the connection was made
  std::optional<FarJson> ended_;  ///< the last of them, where it says how the sheet ended
  bool has_ended_ = false;
  bool is_left_ = false;
  int restarts_in_vain_ = 0;
  bool has_passed_ = false;  ///< a pass was filed since it was started last
};

}  // namespace session
