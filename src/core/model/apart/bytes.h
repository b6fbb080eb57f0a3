#pragma once

#include <cstdint>
#include <cstring>
#include <map>
#include <optional>
#include <stdexcept>
#include <string>
#include <string_view>
#include <type_traits>
#include <vector>

#include "base/geometry.h"

namespace lostline::model {

/// Values as bytes and back: one description of a type serves both ways. For two processes of one
/// program on one machine; nothing of it is kept in files.
class Bytes {
 public:
  Bytes() = default;  ///< writes
  /// Reads what was written; it has to stay. Reading past its end throws std::runtime_error.
  explicit Bytes(std::string_view from) : from_(from), reading_(true) {}

  [[nodiscard]] bool reading() const { return reading_; }
  [[nodiscard]] std::string take() { return std::move(written_); }
  [[nodiscard]] std::string_view rest() const { return from_; }

  template <class T>
  requires std::is_arithmetic_v<T> || std::is_enum_v<T>
  void operator()(T& value) { raw(&value, sizeof value); }
  template <int N>
  void operator()(Eigen::Matrix<double, N, 1>& v) {
    raw(v.data(), sizeof(double) * N);
  }
  void operator()(std::string& text) {
    resize(text);
    raw(text.data(), text.size());
  }
  template <class T, class Each>
  void each(std::vector<T>& list, const Each& each) {
    resize(list);
    for (T& value : list) each(value);
  }
  template <class T>
  void operator()(std::vector<T>& list) {
    each(list, [this](T& value) { (*this)(value); });
  }
  template <class T, class Each>
  void maybe(std::optional<T>& value, const Each& each) {
    bool there = value.has_value();
    (*this)(there);
    if (reading_) value = there ? std::optional<T>(T{}) : std::nullopt;
    if (there) each(*value);
  }
  /// What is shared and never changes; null stays null.
  template <class T, class Each>
  void shared(std::shared_ptr<const T>& value, const Each& each) {
    bool there = value != nullptr;
    (*this)(there);
    if (!there) return value.reset();
    auto copy = reading_ ? std::make_shared<T>() : std::make_shared<T>(*value);
    each(*copy);
    if (reading_) value = std::move(copy);
  }

 private:
  void raw(void* data, std::size_t size) {
    if (size == 0) return;
    if (!reading_) {
      written_.append(static_cast<const char*>(data), size);
      return;
    }
    if (size > from_.size()) throw std::runtime_error("the bytes end too early");
    std::memcpy(data, from_.data(), size);
    from_.remove_prefix(size);
  }
  template <class List>
  void resize(List& list) {
    std::uint64_t count = list.size();
    (*this)(count);
    if (!reading_) return;
    if (count > from_.size()) throw std::runtime_error("the bytes end too early");
    list.resize(count);
  }

  std::string written_;
  std::string_view from_;
  bool reading_ = false;
};

}  // namespace lostline::model
