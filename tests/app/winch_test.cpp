// The other parts of the demo, each rebuilt from its scan in the window.
#include "by_mouse.h"
#include "io/step.h"
#include "simulate/winch_parts.h"
#include "support/places.h"
#include "support/rounds.h"

namespace lostline {
namespace {

class Winch : public ::testing::Test {
 protected:
  void SetUp() override {
    window_.show();
    driver_ = std::make_unique<testing::WindowDriver>(window_);
    if (const char* folder = std::getenv("LOSTLINE_SHOTS"))
      driver_->shot_folder = QString::fromLocal8Bit(folder);
  }
  [[nodiscard]] static QString demo() { return QString::fromStdString(testing::demo_dir()); }
  /// The model against the design that the scan hides, and its STEP file read back.
  void compareWith(const model::Model& truth, double share) {
    const model::Model solid = window_.session().route()->solid;
    ASSERT_FALSE(solid.empty());
    EXPECT_TRUE(solid.valid());
    EXPECT_EQ(solid.body_count(), 1U);
    EXPECT_NEAR(solid.volume() / truth.volume(), 1, share);
    QTemporaryDir folder;
    const std::string path = folder.filePath(QStringLiteral("part.step")).toStdString();
    ASSERT_TRUE(io::write_step(path, solid, "part"));
    const auto back = io::read_step(path);
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_NEAR(back->volume(), solid.volume(), 1e-6 * solid.volume());
  }

  app::MainWindow window_;
  std::unique_ptr<testing::WindowDriver> driver_;
};

TEST_F(Winch, TheDrumFlangeIsTurnedDrilledAndKeyed) {
  const std::string trouble = testing::rebuild_drum_flange(*driver_, window_, demo());
  if (!trouble.empty()) driver_->shot(QStringLiteral("trouble"));
  ASSERT_EQ(trouble, "");
  compareWith(simulate::drum_flange(), 1e-3);
}

TEST_F(Winch, TheWallBracketIsPutTogetherFromPlateStrapsAndTube) {
  const std::string trouble = testing::rebuild_wall_bracket(*driver_, window_, demo());
  if (!trouble.empty()) driver_->shot(QStringLiteral("trouble"));
  ASSERT_EQ(trouble, "");
  compareWith(simulate::wall_bracket(), 2e-3);
}

TEST_F(Winch, TheCrankIsJoinedLoftedAndPatched) {
  if (!testing::thorough()) GTEST_SKIP() << "takes minutes; with --thorough";
  const std::string trouble = testing::rebuild_crank(*driver_, window_, demo());
  if (!trouble.empty()) driver_->shot(QStringLiteral("trouble"));
  ASSERT_EQ(trouble, "");
  compareWith(simulate::crank(), 5e-3);
}

TEST_F(Winch, TheBrakeDrumHasItsVanesLoftedTrimmedAndPatterned) {
  if (!testing::thorough()) GTEST_SKIP() << "takes minutes; with --thorough";
  const std::string trouble = testing::rebuild_brake_drum(*driver_, window_, demo());
  if (!trouble.empty()) driver_->shot(QStringLiteral("trouble"));
  ASSERT_EQ(trouble, "");
  compareWith(simulate::brake_drum(), 5e-3);
}

}  // namespace
}  // namespace lostline
