#pragma once

#include <cstdint>
#include <cstring>
#include <string_view>
#include <type_traits>

namespace lostline {

/// 64-bit FNV-1a over the values added, in order. Source: IETF draft-eastlake-fnv.
class Hash {
 public:
  Hash& add_bytes(const void* data, std::size_t size) {
    const auto* bytes = static_cast<const unsigned char*>(data);
    for (std::size_t i = 0; i < size; ++i) value_ = (value_ ^ bytes[i]) * 0x100000001b3ULL;
    return *this;
  }
  Hash& add(std::string_view text) {
    const std::uint64_t size = text.size();
    return add_bytes(&size, sizeof size).add_bytes(text.data(), text.size());
  }
  template <class T>
  requires std::is_arithmetic_v<T> || std::is_enum_v<T> Hash& add(T value) {
    return add_bytes(&value, sizeof value);
  }
  [[nodiscard]] std::uint64_t value() const { return value_; }

 private:
  std::uint64_t value_ = 0xcbf29ce484222325ULL;
};

}  // namespace lostline
