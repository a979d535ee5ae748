#pragma once

#include <string>

#include "core/values/result.h"

namespace session {

/// Where the program keeps, for one user, what belongs to no single study.
struct UserFiles {
  std::string approvals;   ///< acts that a person here has approved: Approvals
  std::string settings;    ///< settings to be put back: SettingJournal
  std::string benches;     ///< every bench over time: store::BenchRegister
  std::string running;     ///< studies that go on after a restart: StudyList
  std::string copies;      ///< the second folder of each study: SecondFolders
  std::string studies;     ///< the folder of new studies that nobody keeps elsewhere
  std::string cabinet;     ///< the index of the studies on the disk: store::CabinetIndex
  std::string templates;   ///< what reports are made by: ReportTemplates
  std::string practice;    ///< what this user practised: PracticeRecord
  std::string at_work;     ///< studies that are followed side by side: StudyList
  std::string root_facts;  ///< what iron-lever-root-facts wrote in this boot, when somebody ran it

  /// Below $XDG_STATE_HOME/iron-lever and $XDG_DATA_HOME/iron-lever; root facts in /run, which a restart empties.
  /// Errors  Missing where neither they nor HOME name a folder: nothing is kept in whatever folder is at hand
  [[nodiscard]] static core::Result<UserFiles> ofThisUser();
  /// All in one folder: for the demo, which leaves nothing elsewhere, and for tests.
  [[nodiscard]] static UserFiles in(const std::string& folder);
};

/// May a file be relied on: a plain one of this user's, which nobody else may write to? One that is not there may.
/// Errors  Denied
[[nodiscard]] core::Status checkOwnFile(const std::string& path);

/// Makes such a file where there is none, with its folder, for this user alone. Errors  Denied, Io
core::Status makeOwnFile(const std::string& path);

}  // namespace session
