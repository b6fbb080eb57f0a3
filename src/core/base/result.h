#pragma once

#include <cassert>
#include <string>
#include <utility>
#include <variant>

namespace lostline {

/// What the caller can do about a failure.
enum class ErrorCode {
  InvalidInput,  ///< the data or a parameter must change
  Degenerate,    ///< too little evidence; ask for more or a different pick
  NotConverged,  ///< a different start or a simpler problem may work
  Cancelled,     ///< the user stopped it
  NotFound,      ///< the named thing is gone; pick another
  Io,            ///< file system: permission, space, missing file
  Unsupported,   ///< this program cannot do it
  Failed,        ///< the operation is impossible with these values
};

/// A foreseeable failure: a code for the program and a sentence for the user that names object and
/// reason.
struct Error {
  ErrorCode code = ErrorCode::InvalidInput;
  std::string message;
};

/// Either a value or an Error.
template <class T>
class [[nodiscard]] Result {
 public:
  Result(T value) : state_(std::move(value)) {}      // NOLINT: implicit by intent
  Result(Error error) : state_(std::move(error)) {}  // NOLINT: implicit by intent

  [[nodiscard]] bool ok() const { return std::holds_alternative<T>(state_); }
  explicit operator bool() const { return ok(); }
  [[nodiscard]] const T& value() const& {
    assert(ok());
    return std::get<T>(state_);
  }
  [[nodiscard]] T&& value() && {
    assert(ok());
    return std::get<T>(std::move(state_));
  }
  [[nodiscard]] const Error& error() const {
    assert(!ok());
    return std::get<Error>(state_);
  }
  const T& operator*() const& { return value(); }
  T&& operator*() && { return std::move(*this).value(); }
  const T* operator->() const { return &value(); }

 private:
  std::variant<T, Error> state_;
};

/// Success without a value.
struct Done {};
using Status = Result<Done>;

}  // namespace lostline
