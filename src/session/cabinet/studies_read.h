#pragma once

#include <deque>
#include <filesystem>
#include <span>
#include <vector>

#include "core/beside/beside_order.h"
#include "core/beside/study_aside.h"
#include "session/cabinet/read_study.h"

namespace session {

/// Several studies as their files have them, each judged, to be laid beside each other.
class StudiesRead {
 public:
  /// How studies are called in sentences.
  enum class Names {
    Paths,  ///< as they were asked for
    Short   ///< by the day of their last pass, and what tells them apart besides
  };
  /// `folder`: from which relative paths of the order are seen. One that does not lie there any more is looked for by
  /// its identity in the cabinet of this user.
  /// Errors  of readStudy; NotAllowed where another study lies in its place and it is nowhere to be found
  [[nodiscard]] static core::Result<StudiesRead> read(const core::BesideOrder& order,
                                                      const std::filesystem::path& folder, Names names = Names::Paths);

  /// They look into this.
  [[nodiscard]] std::span<const core::StudyAside> aside() const { return aside_; }

 private:
  struct Read {
    ReadStudy study;
    core::Record record;
    core::Judgement judgement;
  };
  void callThemShort();
  std::deque<Read> read_;  ///< in their places: records look into them
  std::vector<core::StudyAside> aside_;
};

}  // namespace session
