#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "session/user/user_files.h"
#include "store/benches/bench_names.h"
#include "store/benches/bench_register.h"
#include "store/cabinet/cabinet_index.h"

namespace session {

/// The studies of a person on their disks: folders that they named, each study with its sentence, found by words. A
/// study is read from a private copy, and only where its file has changed since; one that cannot be read stands there
/// with the reason.
class Cabinet {
 public:
  explicit Cabinet(const UserFiles& files)
      : index_(files.cabinet), benches_(files.benches), names_(files.benches), own_(files.studies) {}

  /// Errors  Missing for what is no folder; those of the index
  core::Status add(const std::string& folder);
  core::Status remove(const std::string& folder);

  /// Looks through the folders, and reads what is new or changed. Folders that are away keep what was known of them.
  /// Asked for an end it stops after the study in hand; what was read stays. Errors of the index
  core::Status refresh(const std::stop_token& end = {});

  /// Those that a person named; before them that of studies which nobody keeps elsewhere, once there is one.
  [[nodiscard]] core::Result<std::vector<std::string>> folders() const;
  [[nodiscard]] const store::BenchRegister& benches() const { return benches_; }
  /// Of the folders those that cannot be looked into now.
  [[nodiscard]] const std::vector<std::string>& away() const { return away_; }
  [[nodiscard]] core::Result<std::vector<store::CabinetIndex::Entry>> find(const std::string& words) const {
    return index_.find(words);
  }
  /// Where a study was seen last; empty where it was not.
  [[nodiscard]] std::string pathOf(const std::string& identity) const {
    const auto path = index_.pathOf(identity);
    return path ? *path : std::string();
  }

 private:
  store::CabinetIndex index_;
  store::BenchRegister benches_;
  store::BenchNames names_;
  std::string own_;
  std::vector<std::string> away_;
};

}  // namespace session
