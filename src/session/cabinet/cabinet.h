#pragma once

#include <string>
#include <vector>

#include "store/benches/bench_register.h"
#include "store/cabinet/cabinet_index.h"

namespace session {

/// The studies of a person on their disks: folders that they named, each study with its sentence, found by words. A
/// study is read from a private copy, and only where its file has changed since; one that cannot be read stands there
/// with the reason.
class Cabinet {
 public:
  Cabinet(store::CabinetIndex index, store::BenchRegister benches)
      : index_(std::move(index)), benches_(std::move(benches)) {}

  /// Errors  Missing for what is no folder; those of the index
  core::Status add(const std::string& folder);
  core::Status remove(const std::string& folder);

  /// Looks through the folders, and reads what is new or changed. Folders that are away keep what was known of them.
  /// Errors of the index
  core::Status refresh();

  [[nodiscard]] core::Result<std::vector<std::string>> folders() const { return index_.folders(); }
  /// Of the folders those that cannot be looked into now.
  [[nodiscard]] const std::vector<std::string>& away() const { return away_; }
  [[nodiscard]] core::Result<std::vector<store::CabinetIndex::Entry>> find(const std::string& words) const {
    return index_.find(words);
  }

 private:
  store::CabinetIndex index_;
  store::BenchRegister benches_;
  std::vector<std::string> away_;
};

}  // namespace session
