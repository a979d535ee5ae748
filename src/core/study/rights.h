#pragma once

#include <string>

namespace core {

/// What a command does without of the rights of the person who starts it. The last two take the first with them.
struct Without {
  bool new_privileges = false;           ///< neither it nor what it starts may become another user
  bool network = false;                  ///< it has a network of its own, with nobody on it
  bool shared_temporary_folder = false;  ///< /tmp and /var/tmp are its own, and empty

  [[nodiscard]] bool any() const { return new_privileges || network || shared_temporary_folder; }
  [[nodiscard]] bool isConfined() const { return network || shared_temporary_folder; }
  auto operator<=>(const Without&) const = default;
};

/// "without new privileges, network, the shared temporary folder"; empty where it keeps all.
[[nodiscard]] std::string withoutText(const Without& without);

}  // namespace core
