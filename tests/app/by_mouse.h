#pragma once

#include <QtTest>
#include <QtWidgets>
#include <functional>
#include <stdexcept>
#include <string>

#include "window_driver.h"

// A part rebuilt from its scan with mouse and keys: what the jobs of the demo's parts share.

namespace lostline::testing {

/// Something that a person at the window would have seen going wrong.
class Trouble : public std::runtime_error {
 public:
  using std::runtime_error::runtime_error;
};

/// The hands of an engineer: each act ends when the window has settled, and throws Trouble with
/// what card and status line say when it did not work.
class Hands {
 public:
  Hands(WindowDriver& driver, app::MainWindow& window) : driver_(driver), window_(window) {}

  using Suits = std::function<bool(const survey::Region&, const fit::Surface&)>;
  /// The first region whose fitted surface, in part coordinates, suits; the largest come first.
  std::uint32_t region(const std::string& what, const Suits& suits) const;
  /// By about its area, mm2.
  static Suits of_area(fit::Kind kind, double area);
  static Suits of_radius(double radius);

  void open(const QString& scan);
  void survey();
  /// Clicks a region, looking from where it can be seen.
  void click(std::uint32_t region);
  /// Clicks the row of a region in Evidence.
  void clickInEvidence(std::uint32_t region);
  /// Primary, secondary and origin by regions; kept.
  void frame(std::uint32_t primary, const std::vector<std::uint32_t>& secondary,
             std::uint32_t origin);
  void tool(int stage, const char* name);
  /// A section kept with its sketch, whose card stays open.
  /// @param plane  place in the card's list; 4: the half-plane about an axis at an angle.
  const project::TracedSketch& section(int plane, double level);
  /// Lines from place to place, with the pen for lines.
  void draw(const std::vector<Vec3>& places);
  void pressIfThere(const char* button);
  void press(const char* button);
  void number(const char* field, double value);
  [[nodiscard]] double value(const char* number) const;  ///< as the field has it
  void choose(const char* field, int index);
  /// The item of a list by its text.
  void chooseText(const char* field, const QString& text);
  void tick(const char* list, const QString& text);
  void check(const char* box, bool on);
  void name(const char* step);
  /// Return; the card closes.
  /// A row of Evidence by its text.
  void clickRow(const QString& text);
  /// Waits for one of the card's picks by its button.
  void waitFor(const char* pick);
  void keep();
  /// The surface bodies part a body, whose larger piece stays; they go.
  void trim(const char* name, const QString& body, const QString& surface, std::size_t steps);
  /// The scan lies within `most` mm RMS of the model, seen in Prove.
  void prove(const char* picture, double most);
  /// Return, where the card that follows stays.
  void keepAndGoOn();
  /// Return, after which the Route has so many steps, the last of them sound.
  void keepStep(std::size_t steps);
  void shot(const char* name) { driver_.shot(QString::fromUtf8(name)); }
  void lookAlong(int view);
  /// Turns the wheel over a place, so many notches nearer.
  void zoomAt(const Vec3& place, int notches);
  void lookAt(const Vec3& from);
  void require(bool good, const std::string& what) const;

  [[nodiscard]] const project::Document& document() const { return driver_.document(); }
  [[nodiscard]] const model::Model& solid() const { return window_.session().route()->solid; }
  WindowDriver& driver() { return driver_; }
  app::MainWindow& window() { return window_; }

 private:
  [[nodiscard]] std::string told() const;
  template <class Widget>
  Widget* field(const char* name) const {
    for (Widget* w : window_.findChildren<Widget*>(QLatin1String(name)))
      if (w->isVisible()) return w;
    throw Trouble(std::string("there is no ") + name + "; " + told());
  }

  WindowDriver& driver_;
  app::MainWindow& window_;
};

std::string told(const std::function<void()>& work);  ///< what Trouble it met; empty: none

/// Circles of a sketch by their radius.
std::vector<sketch::Id> circles_of(const sketch::Sketch& s, double radius);
/// The line of a sketch that passes nearest to a place.
sketch::Id line_near(const sketch::Sketch& s, const Vec2& place);

/// Each from the scans in the demo's folder to the model. Empty, or what went wrong. With a folder
/// for pictures the driver takes those of the guide.
std::string rebuild_drum_flange(WindowDriver& driver, app::MainWindow& window, const QString& demo);
std::string rebuild_wall_bracket(WindowDriver& driver, app::MainWindow& window,
                                 const QString& demo);
std::string rebuild_crank(WindowDriver& driver, app::MainWindow& window, const QString& demo);
std::string rebuild_brake_drum(WindowDriver& driver, app::MainWindow& window, const QString& demo);

}  // namespace lostline::testing
