#pragma once

namespace session {

/// What a sheet is doing. `Settling`: the bench comes to rest after a flip. `Testing`: a level is tested for errors.
/// `Measuring`: what the level yields, before the first and after the last pass of a visit. `AwaitingQuiet`: other
/// programs are to keep still. `AwaitingPlayer`: the next pass is played by hand, and a person is to start it.
/// `AwaitingResult`: a person runs the next pass elsewhere and types its result. `Held`: it cannot go on before a
/// person has dealt with the problem.
enum class State {
  Idle,
  SettingLevel,
  Settling,
  Testing,
  Measuring,
  AwaitingQuiet,
  AwaitingPlayer,
  AwaitingResult,
  RunningPass,
  Held,
  Finished
};

/// How a person or the system ends a sheet that runs. `Now`: the pass in hand ends too; it is not recorded and will run
/// again. `ForRestart`: the same because the machine goes down, and the sheet stays among those that go on after it.
enum class Stop { AfterPass, Now, ForRestart };

[[nodiscard]] constexpr bool isRunning(State state) {
  return state != State::Idle && state != State::Held && state != State::Finished;
}
/// The sheet waits for a person, and for nothing else.
[[nodiscard]] constexpr bool awaitsPerson(State state) {
  return state == State::AwaitingPlayer || state == State::AwaitingResult;
}

}  // namespace session
