// The window in another language: every word of the core it shows has its translation, and the
// tools are still told apart.
#include "look/catalogue.h"

#include <QTextBlock>
#include <set>

#include "fit/surface_kind.h"
#include "jobs.h"
#include "look/theme.h"
#include "model/steps/kinds.h"
#include "project/datums.h"
#include "sketch/constraint_kinds.h"
#include "sketch/redraw.h"
#include "tools/tool.h"
#include "windows/guide.h"

namespace lostline {
namespace {

/// Everything that the description of a kind of step names.
struct Names : model::Listener {
  std::set<std::string> words;
  void number(const model::NumberInfo& info, model::Quantity&) override { words.insert(info.name); }
  void count(const model::CountInfo& info, int&) override { words.insert(info.name); }
  void flag(const char* name, bool&) override { words.insert(name); }
  void reference(const model::ReferenceInfo& info, model::Reference&) override {
    words.insert(info.name);
  }
  void edges(const char* name, std::vector<model::EdgeRef>&) override { words.insert(name); }
  void faces(const char* name, std::vector<std::string>&) override { words.insert(name); }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>&) override {
    words.insert(info.name);
  }
  void imported(const char* name, std::shared_ptr<const model::Imported>&) override {
    words.insert(name);
  }
  void sketches(const model::SketchesInfo& info, std::vector<model::Id>&) override {
    words.insert(info.name);
  }

 private:
  void choose(const model::ChoiceInfo& info, int&) override {
    words.insert(info.name);
    for (const char* word : info.words) words.insert(word);
  }
};

TEST(GermanCatalogue, HasEveryWordOfTheCore) {
  app::apply_theme();  // the resources
  const app::Catalogue german(QStringLiteral("de"));
  ASSERT_FALSE(german.isEmpty());
  Names names;
  for (const model::FeatureKind* kind : model::feature_kinds()) {
    model::Feature feature = kind->make();
    feature.describe(names);
    names.words.insert({kind->title, kind->tip});
  }
  for (const app::Tool& tool : app::tools()) names.words.insert({tool.name, tool.tip});
  for (const sketch::ConstraintKind& kind : sketch::constraint_kinds())
    names.words.insert(kind.name);
  for (const auto finish : {survey::Finish::Machined, survey::Finish::AsCast,
                            survey::Finish::Formed, survey::Finish::Unknown})
    names.words.insert(survey::finish_name(finish));
  for (const fit::SurfaceKind& kind : fit::surface_kinds()) names.words.insert(kind.name);
  for (const auto state : {model::StepState::Sound, model::StepState::Stale,
                           model::StepState::Broken, model::StepState::Parked})
    names.words.insert(model::state_name(state));
  for (const auto type :
       {project::Construction::Type::Midplane, project::Construction::Type::BoltCircle,
        project::Construction::Type::Targets})
    names.words.insert(project::construction_name(type));
  for (const sketch::AsKind& kind : sketch::as_kinds()) names.words.insert(kind.name);
  for (const std::string& word : names.words)
    EXPECT_TRUE(german.has(QString::fromStdString(word))) << word;
}

TEST(GermanCatalogue, SaysWhatTheCoreSaysWithItsValues) {
  app::apply_theme();
  app::Catalogue german(QStringLiteral("de"));
  QCoreApplication::installTranslator(&german);
  const auto said = [](const char* english) { return app::core_text(english).toStdString(); };
  EXPECT_EQ(said("A midplane lies between two planes: pick two."),
            "Eine Mittelebene liegt zwischen zwei Ebenen: zwei w\u00e4hlen.");
  // A value is a word, a sentence, or what the engineer has named.
  EXPECT_EQ(said("A cylinder needs at least 6 points; there are 4."),
            "Zylinder braucht mindestens 6 Punkte; es sind 4.");
  EXPECT_EQ(said("old bracket.lostline is damaged: the scan data is incomplete. Open a backup copy "
                 "of it."),
            "old bracket.lostline ist besch\u00e4digt: die Scandaten sind unvollst\u00e4ndig. Eine "
            "Sicherungskopie davon \u00f6ffnen.");
  EXPECT_EQ(said("The sketch has no closed profile: line 3 has a loose end."),
            "Die Skizze hat kein geschlossenes Profil: Gerade 3 hat ein loses Ende.");
  // Whatever is not known stays as it is.
  EXPECT_EQ(said("bracket of the old pump"), "bracket of the old pump");
  EXPECT_EQ(said(""), "");
  // A reading, a share and a count are never taken for a sentence.
  EXPECT_EQ(said("12 of 40"), "12 of 40");
  QCoreApplication::removeTranslator(&german);
  EXPECT_EQ(said("A midplane lies between two planes: pick two."),
            "A midplane lies between two planes: pick two.");
}

TEST(GermanCatalogue, CountsOneAndMany) {
  app::apply_theme();
  app::Catalogue german(QStringLiteral("de"));
  QCoreApplication::installTranslator(&german);
  EXPECT_EQ(QCoreApplication::translate("x", "%n selected", nullptr, 3),
            QStringLiteral("3 gew\u00e4hlt"));
  EXPECT_EQ(QCoreApplication::translate("x", "%n row(s) copied", nullptr, 1),
            QStringLiteral("1 Zeile kopiert"));
  EXPECT_EQ(QCoreApplication::translate("x", "%n row(s) copied", nullptr, 7),
            QStringLiteral("7 Zeilen kopiert"));
  std::set<QString> titles;
  for (const app::Tool& tool : app::tools())
    EXPECT_TRUE(titles.insert(tool.title()).second) << tool.name;
  QCoreApplication::removeTranslator(&german);
  EXPECT_TRUE(app::Catalogue(QStringLiteral("xx")).isEmpty());
}

}  // namespace

TEST(GermanWindow, SpeaksGermanWithPointsInItsNumbers) {
  app::apply_theme();
  app::Catalogue german(QStringLiteral("de"));
  QCoreApplication::installTranslator(&german);
  {
    app::MainWindow window;
    window.show();
    testing::WindowDriver driver(window);
    EXPECT_EQ(window.rail().toolNames(app::kReceive).front(), QStringLiteral("Zustand"));
    EXPECT_TRUE(window.menuBar()->actions().front()->text().contains(QStringLiteral("Datei")));
    QTemporaryDir folder;
    const QString path = folder.filePath(QStringLiteral("plate.stl"));
    ASSERT_TRUE(io::write_stl(path.toStdString(), testing::plate_mesh(0.01)));
    window.openFile(path);
    ASSERT_TRUE(driver.settle());
    ASSERT_NE(window.card(), nullptr);
    EXPECT_EQ(window.card()->accessibleName(), QStringLiteral("Zustand"));
    bool point = false;
    for (const QLabel* label : window.card()->findChildren<QLabel*>()) {
      point = point || label->text().contains(QStringLiteral("60.0"));
      EXPECT_FALSE(label->text().contains(QStringLiteral("60,0")));
    }
    EXPECT_TRUE(point);
    window.desk().clear();
    // No card is wider than its column.
    const auto found = survey::split_into_regions(*window.session().document().scan->mesh,
                                                  window.session().document().scan->topology);
    ASSERT_TRUE(found);
    window.session().commit(QStringLiteral("survey"),
                            project::with_new_split(window.session().document(),
                                                    std::make_shared<survey::Survey>(*found)));
    for (const app::Tool& tool : app::tools()) {
      if (!tool.possible(window.session())) continue;
      Q_EMIT window.rail().toolChosen(tool);
      driver.settle();
      ASSERT_NE(window.card(), nullptr) << tool.name;
      const auto* area = window.card()->findChild<QScrollArea*>();
      EXPECT_LE(area->widget()->minimumSizeHint().width(), area->viewport()->width()) << tool.name;
      window.desk().clear();
    }
  }
  QCoreApplication::removeTranslator(&german);
}

TEST(GermanWindow, HasTheGuideInGermanWithEveryTool) {
  app::apply_theme();
  app::Catalogue german(QStringLiteral("de"));
  QCoreApplication::installTranslator(&german);
  {
    QWidget window;
    app::show_guide(&window, QStringLiteral("Messen"));
    const auto* guide = window.findChild<QTextBrowser*>(QStringLiteral("guide"));
    ASSERT_NE(guide, nullptr);
    EXPECT_TRUE(guide->textCursor().block().text().startsWith(QStringLiteral("Messen (Aufnahme)")));
    std::set<QString> listed;
    const auto* contents = window.findChild<QListWidget*>(QStringLiteral("guideContents"));
    for (int i = 0; i < contents->count(); ++i)
      listed.insert(contents->item(i)->data(Qt::UserRole).toString());
    for (const app::Tool& tool : app::tools())
      EXPECT_TRUE(listed.contains(tool.title())) << tool.name;
  }
  QCoreApplication::removeTranslator(&german);
}

}  // namespace lostline
