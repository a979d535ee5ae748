// Frames of real programs, shown on a display without a monitor and recorded without their help.
#include "session/programs/frame_recorder.h"

#include <gtest/gtest.h>

#include <QCoreApplication>
#include <algorithm>
#include <cmath>
#include <cstring>
#include <filesystem>

#include "bench/local_bench.h"
#include "core/findings/bound.h"
#include "recorder/frame_facts.h"
#include "recorder/frame_ring.h"
#include "recorder/ring_layout.h"
#include "session/programs/frame_channels.h"
#include "session/sheet/session.h"
#include "support/run_session.h"
#include "support/studies.h"
#include "support/test_folder.h"
#include "support/virtual_display.h"

namespace {

using session::Session;

class Recorder : public testing::Test {
 protected:
  /// A study whose only case runs a program that we record.
  core::Study studyOf(core::Command command) {
    core::Study study = support::studyOf(std::move(command), 1);
    study.cases[0].source = core::ResultSource::Recorded;
    for (core::Level& level : study.variable().levels) level.environment = {{"DISPLAY", display_.name()}};
    return study;
  }
  void run(const core::Study& study) {
    ASSERT_TRUE(store::StudyFile::create(folder_ / "study", study).ok());
    auto file = store::StudyFile::open(folder_ / "study");
    ASSERT_TRUE(file.ok());
    session_ =
        std::make_unique<Session>(*std::move(file), bench_, session::UserFiles::in(folder_ / "user"), "T. Varga");
    ASSERT_TRUE(session_->approve().ok());
    const auto started = session_->start();
    ASSERT_TRUE(started.ok()) << started.error().sentence();
    ASSERT_TRUE(support::waitUntil([&] { return !session_->isRunning(); }));
  }
  const core::Pass& pass() { return session_->recorded().passes.at(0); }
  static std::string gl() {
    return (QCoreApplication::applicationDirPath() + QStringLiteral("/gl_program")).toStdString();
  }

  support::VirtualDisplay display_;
  support::TestFolder folder_;
  bench::LocalBench bench_;
  std::unique_ptr<Session> session_;
};

TEST_F(Recorder, CountsTheFramesOfAVulkanProgramExactly) {
  run(studyOf({"vkcube", "--c", "90"}));
  ASSERT_EQ(pass().failure, "");
  EXPECT_EQ(pass().frames->frames, 89U);  // 90 frames shown: 89 from one to the next
  EXPECT_GT(*pass().value, 1);
  ASSERT_TRUE(pass().presentation);
  EXPECT_EQ(pass().presentation->interface, "Vulkan");
  EXPECT_EQ(pass().presentation->program, "vkcube");
  EXPECT_EQ(pass().presentation->width, 500);
  EXPECT_FALSE(pass().presentation->device.empty());
  EXPECT_FALSE(pass().presentation->present_mode.empty());
  const auto thread = std::find_if(pass().samples.begin(), pass().samples.end(),
                                   [](const auto& channel) { return channel.name == core::kThreadTime; });
  ASSERT_NE(thread, pass().samples.end());
  EXPECT_GT(thread->median, 0);
  EXPECT_LT(thread->median, 1000 / pass().frames->average_fps);
  const auto samples = session_->open().file().samples(pass().id);
  ASSERT_TRUE(samples.ok());
  for (const char* name : {core::kThreadTime, core::kHandOverWait}) {
    const auto by_frame = std::find_if(samples->by_frame.begin(), samples->by_frame.end(),
                                       [&](const core::Channel& channel) { return channel.name == name; });
    ASSERT_NE(by_frame, samples->by_frame.end()) << name;
    EXPECT_EQ(by_frame->values.size(), 89U);  // one for each frame time
    EXPECT_GT(std::count_if(by_frame->values.begin(), by_frame->values.end(), [](double ms) { return ms > 0; }), 80)
        << name;
  }
}

TEST_F(Recorder, KeepsTheFramesOfAProgramThatFails) {
  run(studyOf({(QCoreApplication::applicationDirPath() + QStringLiteral("/own_gl_program")).toStdString(), "private",
               (QCoreApplication::applicationDirPath() + QStringLiteral("/libown_gl.so")).toStdString(), "300", "1",
               "abort"}));
  EXPECT_EQ(pass().status, core::PassStatus::Failed);
  EXPECT_NE(pass().failure.find("299 frames recorded until then are kept"), std::string::npos) << pass().failure;
  EXPECT_FALSE(pass().value);
  auto again = store::StudyFile::open(folder_ / "study");
  ASSERT_TRUE(again.ok());
  EXPECT_EQ(again->frames(pass().id)->size(), 299U);
}

TEST_F(Recorder, CountsTheFramesOfOpenGlProgramsExactly) {
  for (const core::Command& command :
       {core::Command{gl(), "120"}, {gl(), "120", "--egl"}, {gl(), "120", "--loads", "libGL.so.1"}}) {
    std::filesystem::remove(folder_ / "study");
    run(studyOf(command));
    ASSERT_EQ(pass().failure, "") << command.back();
    EXPECT_EQ(pass().frames->frames, 119U) << command.back();
    EXPECT_EQ(pass().presentation->interface, command.back() == "--egl" ? "EGL" : "GLX");
    EXPECT_EQ(pass().presentation->width, 200) << command.back();
    EXPECT_EQ(pass().presentation->height, 120) << command.back();
  }
}

TEST_F(Recorder, CountsTheStretchThatAPersonChooses) {
  // Shows a frame every few milliseconds until it is asked to end; one that draws in earnest takes a fifth of a second
  // for a frame where the machine is busy, and the two that hang over at the ends are half of the stretch then.
  const std::string bin = QCoreApplication::applicationDirPath().toStdString();
  core::Study study = studyOf({bin + "/own_gl_program", "private", bin + "/libown_gl.so", "100000", "5", "exit"});
  study.cases[0].is_played = true;
  study.cases[0].route = "watch the picture";
  study.cases[0].played_s = 1;
  study.plan.passes_per_level = 1;
  ASSERT_TRUE(store::StudyFile::create(folder_ / "study", study).ok());
  session_ = std::make_unique<Session>(*store::StudyFile::open(folder_ / "study"), bench_,
                                       session::UserFiles::in(folder_ / "user"), "T. Varga");
  ASSERT_TRUE(session_->approve().ok());
  ASSERT_TRUE(session_->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return session_->state() == session::State::AwaitingPlayer; }));
  ASSERT_TRUE(session_->startPlaying().ok());
  ASSERT_TRUE(support::waitUntil([&] { return session_->state() == session::State::RunningPass; }));
  ASSERT_TRUE(session_->pass().beginStretch().ok());
  ASSERT_TRUE(support::waitUntil([&] { return !session_->recorded().passes.empty(); }, 20000));
  session_->stop(session::Stop::Now);
  ASSERT_EQ(pass().failure, "");
  // All of the second but the frame that hangs over at each end.
  const double counted_s = static_cast<double>(pass().frames->frames) / pass().frames->average_fps;
  EXPECT_GT(counted_s, 0.7);
  EXPECT_LE(counted_s, 1.001);
}

TEST_F(Recorder, FollowsALauncherThatLeavesBeforeItsProgram) {
  const std::string bin = QCoreApplication::applicationDirPath().toStdString();
  run(studyOf({"sh", "-c", "\"$@\" & echo launched", "launcher", bin + "/own_gl_program", "private",
               bin + "/libown_gl.so", "300", "2", "exit"}));
  ASSERT_EQ(pass().failure, "");
  EXPECT_EQ(pass().frames->frames, 299U);
  const auto filed = session_->recorded().passes.front();
  auto again = store::StudyFile::open(folder_ / "study");
  ASSERT_TRUE(again.ok());
  EXPECT_EQ(again->output(filed.id)->output,
            "launched\n{\"shown\": 300}\n");  // what it printed when its launcher was gone
}

TEST_F(Recorder, EndsWhatOutlivesItsLauncherAtTheTimeLimit) {
  const std::string bin = QCoreApplication::applicationDirPath().toStdString();
  core::Study study = studyOf({"sh", "-c", "\"$@\" &", "launcher", bin + "/own_gl_program", "private",
                               bin + "/libown_gl.so", "100", "1", "waits"});
  study.plan.time_limit_s = 1.5;
  run(study);
  EXPECT_NE(pass().failure.find("stopped at the time limit"), std::string::npos) << pass().failure;
  EXPECT_NE(pass().failure.find("99 frames recorded until then are kept"), std::string::npos) << pass().failure;
}

TEST_F(Recorder, SaysThatNothingWasShown) {
  run(studyOf({"true"}));
  EXPECT_NE(pass().failure.find("no program showed frames through Vulkan or OpenGL"), std::string::npos);
}

TEST_F(Recorder, KeepsWhatAProgramPreloadsItself) {
  const session::FrameRecorder recorder;
  for (const auto& [name, value] : recorder.environment({{"LD_PRELOAD", "own.so"}})) {
    if (name == "LD_PRELOAD") {
      EXPECT_TRUE(value.starts_with("own.so:")) << value;
    }
  }
}

constexpr std::uint32_t kCapacity = 8;

/// The bytes of a ring, as a program would have left them.
std::vector<std::byte> ringOf(std::uint64_t written) {
  recorder::RingHeader header;
  header.header_bytes = sizeof header;
  header.capacity = kCapacity;
  header.written = written;
  std::strncpy(header.program, "ring\tpass", sizeof header.program);
  std::vector<std::byte> bytes(sizeof header + kCapacity * sizeof(recorder::FrameRecord));
  std::memcpy(bytes.data(), static_cast<const void*>(&header), sizeof header);
  for (std::uint64_t i = 0; i < written; ++i) {
    recorder::FrameRecord record;
    record.handed_over = static_cast<std::int64_t>(1000 * i);
    record.returned = record.handed_over + 10;
    std::memcpy(bytes.data() + sizeof header + i % kCapacity * sizeof record, static_cast<const void*>(&record),
                sizeof record);
  }
  return bytes;
}

TEST(FrameRings, GiveWhatCameSince) {
  const auto content = recorder::parseRing(ringOf(6), 4);
  ASSERT_TRUE(content.ok());
  ASSERT_EQ(content->frames.size(), 2U);
  EXPECT_EQ(content->frames[0].handed_over, 4000);
  EXPECT_EQ(content->frames[1].returned, 5010);
  EXPECT_EQ(content->presenter.program, "ring?pass");
}

TEST(FrameFacts, AreOfWhatIsKnown) {
  std::vector<recorder::RecordedFrame> frames(5);
  for (std::size_t i = 0; i < frames.size(); ++i) {
    frames[i].handed_over = static_cast<std::int64_t>(i) * 16'000'000;
    frames[i].returned = frames[i].handed_over + 2'000'000;
    frames[i].thread_time = 1 + static_cast<std::int64_t>(i) * 9'000'000;
    frames[i].submissions = i % 2 == 0 ? 3 : 0;
  }
  frames[0].process_time = 1;
  frames[4].process_time = 1 + 40'000'000;  // noted now and then
  frames[1].shown = 30'000'000;
  frames[1].refresh = 10;
  frames[2].shown = -1;
  frames[3].shown = 80'000'000;
  frames[3].refresh = 13;
  const recorder::FrameFacts facts = recorder::factsOf(frames);
  EXPECT_DOUBLE_EQ(*facts.thread_ms, 9);
  EXPECT_DOUBLE_EQ(*facts.program_ms, 10);
  EXPECT_DOUBLE_EQ(facts.waited_ms, 2);
  EXPECT_EQ(facts.possibly_generated, 2U);
  ASSERT_TRUE(facts.shown);
  EXPECT_EQ(facts.shown->known, 3U);
  EXPECT_EQ(facts.shown->skipped, 1U);
  EXPECT_EQ(facts.shown->repeated, 2U);
  EXPECT_DOUBLE_EQ(facts.shown->fps, 20);
  for (auto& frame : frames) frame.submissions = 0;  // none brings any: nothing is known of them
  EXPECT_EQ(recorder::factsOf(frames).possibly_generated, 0U);
}

TEST(FrameFacts, TakePicturesOfASurfaceMadeAnewFromItsFirstFrameOn) {
  std::vector<recorder::RecordedFrame> frames(4);
  for (std::size_t i = 0; i < frames.size(); ++i) frames[i].handed_over = static_cast<std::int64_t>(i) * 1'000'000;
  frames[0].begins_surface = frames[2].begins_surface = true;
  std::vector<recorder::XShown::Window::Picture> pictures{{1, 500'000, false, 7},
                                                          {2, 1'500'000, true, 0},
                                                          {1, 2'500'000, false, 8},
                                                          {2, 2'500'000, false, 8},
                                                          {9, 3'500'000, false, 9}};
  EXPECT_EQ(recorder::enterShown(pictures, frames), 1);  // its second frame cannot have been shown before it was there
  EXPECT_EQ(frames[0].shown, 500'000);
  EXPECT_EQ(frames[1].shown, -1);
  EXPECT_EQ(frames[2].shown, 2'500'000);
  EXPECT_EQ(frames[3].shown, 0);
  ASSERT_EQ(pictures.size(), 1U);  // a frame that is not read yet
  EXPECT_EQ(pictures[0].serial, 9U);
}

TEST(FrameRings, CountWhatWasWrittenOverBeforeItWasRead) {
  const auto content = recorder::parseRing(ringOf(20), 4);
  ASSERT_TRUE(content.ok());
  EXPECT_EQ(content->first, 12U);
  EXPECT_EQ(content->frames.front().handed_over, 12000);
}

TEST(FrameRings, RefuseWhatIsNone) {
  auto bytes = ringOf(6);
  EXPECT_FALSE(recorder::parseRing(std::span(bytes).first(100), 0).ok());
  EXPECT_FALSE(recorder::parseRing(std::span(bytes).first(bytes.size() - 1), 0).ok());
  EXPECT_FALSE(recorder::parseRing(bytes, 7).ok());  // fewer than were read before
  const auto times = bytes.begin() + sizeof(recorder::RingHeader);
  std::swap_ranges(times, times + sizeof(recorder::FrameRecord), times + 5 * sizeof(recorder::FrameRecord));
  EXPECT_NE(recorder::parseRing(bytes, 0).error().what.find("backwards"), std::string::npos);
  bytes[0] = std::byte{0};
  EXPECT_FALSE(recorder::parseRing(bytes, 0).ok());
}

// Frames handed over by two threads in turn, and work that is handed over in a way that nobody sees.
TEST(FrameChannels, SayNothingThatIsNotKnown) {
  constexpr std::int64_t kMs = 1'000'000;
  std::vector<recorder::RecordedFrame> frames(4);
  const std::int64_t thread_ms[] = {10, 20, 5, 15};
  for (std::size_t i = 0; i < frames.size(); ++i) {
    frames[i].handed_over = static_cast<std::int64_t>(i + 1) * 16 * kMs;
    frames[i].returned = frames[i].handed_over + kMs;
    frames[i].thread_time = thread_ms[i] * kMs;
  }
  const auto named = [&](const std::string& name) {
    core::Samples samples;
    session::addFrameChannels(samples, frames, 0);
    for (const core::Channel& channel : samples.by_frame)
      if (channel.name == name) return channel.values;
    return std::vector<double>();
  };
  const std::vector<double> thread = named(core::kThreadTime);
  ASSERT_EQ(thread.size(), 3U);
  EXPECT_EQ(thread[0], 10);
  EXPECT_TRUE(std::isnan(thread[1])) << thread[1];
  EXPECT_EQ(thread[2], 10);
  EXPECT_TRUE(named("possibly generated").empty());
  for (const std::size_t drawn : {0U, 2U, 3U}) frames[drawn].submissions = 1;
  EXPECT_EQ(named("possibly generated"), (std::vector<double>{1, 0, 0}));
}

}  // namespace
