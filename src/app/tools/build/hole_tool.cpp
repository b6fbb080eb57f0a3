#include <cmath>

#include "look/catalogue.h"
#include "look/preferences.h"
#include "model/steps/hole/hole.h"
#include "reading/evidence.h"
#include "reading/hole_head.h"
#include "sketch/curve_kind.h"
#include "standards/screws.h"
#include "standards/threads.h"
#include "tools/build/step_tool.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

using model::Hole;

/// Drills circles or points of a sketch as one step with one diameter, through or to a depth, plain
/// or with a seat for a screw's head or a thread.
class HoleTool : public SketchedTool {
 public:
  HoleTool(Workplace place, project::Id step)
      : SketchedTool(place, tr("Hole"), step, sketch_of(place, step),
                     tr("hole %1").arg(place.session.document().steps.size() + 1)) {
    diameter_ = length(10, 0.01, 1e4, 0.1, 3, QStringLiteral("diameter"));
    addRow(in_unit(tr("\u2300, mm")), diameter_);
    screw_ = combo({tr("none")}, QStringLiteral("screw"));
    screw_->setToolTip(
        tr("Takes the hole and the seat that a screw wants: ISO 273 medium, DIN 974-1, ISO 15065"));
    for (const standards::ScrewSeat& seat : standards::screw_seats())
      screw_->addItem(QString::fromUtf8(seat.thread));
    addRow(tr("for screw"), screw_);
    thread_ = combo({}, QStringLiteral("thread"));
    for (const char* name : Hole::threads()) thread_->addItem(core_word(name));
    thread_->setToolTip(tr("Tapped: the hole takes the diameter of the tap drill"));
    addRow(tr("thread"), thread_);
    class_ = combo(
        {QStringLiteral("6H"), QStringLiteral("5H"), QStringLiteral("7H"), QStringLiteral("6G")},
        QStringLiteral("threadClass"));
    class_->setToolTip(tr("Tolerance class of the thread, ISO 965-1"));
    class_label_ = addRow(tr("class"), class_);
    modelled_ = new QCheckBox(tr("cut the thread's turns"));
    modelled_->setObjectName(QStringLiteral("modelled"));
    modelled_->setToolTip(tr("Without, the thread is said in names and Ledger alone"));
    addWide(modelled_);
    reach_ = combo({tr("through"), tr("between levels")}, QStringLiteral("holeReach"));
    addRow(tr("goes"), reach_);
    from_ = level(tr("from"), QStringLiteral("from"), from_label_);
    to_ = level(tr("to"), QStringLiteral("to"), to_label_);
    bottom_ = combo({tr("flat"), tr("118\u00b0 point")}, QStringLiteral("bottom"));
    bottom_label_ = addRow(tr("bottom"), bottom_);
    head_ = combo({tr("none"), tr("counterbore"), tr("countersink")}, QStringLiteral("head"));
    addRow(tr("head"), head_);
    head_diameter_ = length(18, 0.01, 1e4, 0.5, 3, QStringLiteral("head_diameter"));
    head_diameter_label_ = addRow(in_unit(tr("head \u2300, mm")), head_diameter_);
    head_depth_ = length(10, 0.01, 1e4, 0.5, 3, QStringLiteral("head_depth"));
    head_depth_label_ = addRow(in_unit(tr("deep, mm")), head_depth_);
    head_angle_ = number(90, 6, 170, 5, 2, QStringLiteral("head_angle"));
    head_angle_label_ = addRow(tr("angle, \u00b0"), head_angle_);
    entry_ = level(tr("entry at"), QStringLiteral("entry"), entry_label_);
    from_below_ = new QCheckBox(tr("from below"));
    from_below_->setObjectName(QStringLiteral("fromBelow"));
    addWide(from_below_);
    if (const model::Step* s = editedStep()) {
      feature_ = *s->feature.as<Hole>();
      chosen_.insert(feature_.circles.begin(), feature_.circles.end());
      show(feature_);
    }
    addBodyChoice(editedStep() != nullptr ? feature_.bodies : std::vector<std::string>());
    for (QDoubleSpinBox* box :
         {diameter_, from_, to_, head_diameter_, head_depth_, head_angle_, entry_})
      connect(box, &QDoubleSpinBox::valueChanged, this, [this] { update(false); });
    connect(modelled_, &QCheckBox::toggled, this, [this] { update(false); });
    for (QComboBox* box : {bottom_, head_, reach_, class_})
      connect(box, &QComboBox::currentIndexChanged, this, [this] { update(false); });
    connect(from_below_, &QCheckBox::toggled, this, [this] { update(false); });
    connect(screw_, &QComboBox::currentIndexChanged, this, [this] { takeScrew(); });
    connect(head_, &QComboBox::currentIndexChanged, this, [this] { takeScrew(); });
    connect(thread_, &QComboBox::currentIndexChanged, this, [this] { takeThread(); });
    showRows();
  }
  void begin() override { update(true, step_ != 0); }
  bool keep() override {
    if (traced() == nullptr) return false;
    const std::string circles = "circles of " + traced()->name;
    std::vector<project::FieldReading> readings{
        field("diameter", diameter_, reading_ ? std::optional(reading_->diameter) : std::nullopt,
              reading_ ? reading_->u : 0, circles)};
    if (reach_->currentIndex() == 1) {
      const auto said = [](const std::optional<reading::Level>& l) {
        return l ? std::optional(l->level) : std::nullopt;
      };
      readings.push_back(field("from", from_, said(levels_.below),
                               levels_.below ? levels_.below->u : 0, "scan level"));
      readings.push_back(field("to", to_, said(levels_.above), levels_.above ? levels_.above->u : 0,
                               "scan level"));
    }
    const auto seat = feature();
    if (seat.head != Hole::Head::None) {
      const bool read = head_reading_ && head_reading_->head == seat.head;
      const auto say = [&](const char* name, const QDoubleSpinBox* box, double value, double u) {
        readings.push_back(field(name, box, read ? std::optional(value) : std::nullopt,
                                 read ? u : 0, read ? "seats of the scan" : "typed"));
      };
      const reading::HeadReading h = head_reading_.value_or(reading::HeadReading{});
      say("head_diameter", head_diameter_, h.diameter, h.u_diameter);
      if (seat.head == Hole::Head::Counterbore)
        say("head_depth", head_depth_, h.depth, h.u_depth);
      else
        say("head_angle", head_angle_, h.angle * kDegrees, h.u_angle * kDegrees);
      say("entry", entry_, h.entry, h.u_entry);
    }
    commit(seat, readings);
    return false;
  }

 private:
  static project::Id sketch_of(Workplace place, project::Id step) {
    const model::Step* s = place.session.document().find_step(step);
    return s != nullptr ? s->feature.as<Hole>()->sketch : 0;
  }
  static QComboBox* combo(const QStringList& words, const QString& name) {
    auto* box = new QComboBox;
    box->addItems(words);
    box->setObjectName(name);
    return box;
  }
  QDoubleSpinBox* level(const QString& label, const QString& name, QLabel*& text) {
    QDoubleSpinBox* box = length(0, -1e5, 1e5, 1, 3, name);
    text = addRow(in_unit(label + tr(", mm")), box);
    return box;
  }
  void showRows() {
    const auto show = [](QWidget* field, QLabel* label, bool on) {
      field->setVisible(on);
      label->setVisible(on);
    };
    const bool deep = reach_->currentIndex() == 1;
    show(from_, from_label_, deep);
    show(to_, to_label_, deep);
    show(bottom_, bottom_label_, deep);
    const int head = head_->currentIndex();
    show(head_diameter_, head_diameter_label_, head != 0);
    show(head_depth_, head_depth_label_, head == 1);
    show(head_angle_, head_angle_label_, head == 2);
    show(entry_, entry_label_, head != 0);
    from_below_->setVisible(head != 0 || deep);
    const bool tapped = thread_->currentIndex() > 0;
    show(class_, class_label_, tapped);
    modelled_->setVisible(tapped);
    settleHeight();
  }
  /// Puts numbers into the fields without being asked what they do.
  void show(const Hole& h) {
    const auto set = [](QDoubleSpinBox* box, double value) {
      const QSignalBlocker block(box);
      box->setValue(value);
    };
    const auto choose = [](QComboBox* box, int value) {
      const QSignalBlocker block(box);
      box->setCurrentIndex(value);
    };
    set(diameter_, h.diameter.value);
    choose(reach_, h.extent.reach == model::Reach::Through ? 0 : 1);
    set(from_, h.extent.from.value);
    set(to_, h.extent.to.value);
    choose(bottom_, static_cast<int>(h.bottom));
    choose(head_, static_cast<int>(h.head));
    set(head_diameter_, h.head_diameter.value);
    set(head_depth_, h.head_depth.value);
    set(head_angle_, h.head_angle.value * kDegrees);
    set(entry_, h.entry.value);
    choose(thread_, h.thread);
    choose(class_, static_cast<int>(h.fit));
    const QSignalBlocker quiet(modelled_);
    modelled_->setChecked(h.modelled);
    const QSignalBlocker block(from_below_);
    from_below_->setChecked(h.from_below);
    showRows();
  }
  /// The numbers that a screw wants, by its table.
  void takeScrew() {
    const int place = screw_->currentIndex() - 1;
    if (place >= 0) {
      const standards::ScrewSeat& seat = standards::screw_seats()[static_cast<std::size_t>(place)];
      Hole h = feature();
      h.diameter.value = seat.clearance;
      if (h.head == Hole::Head::Counterbore) {
        h.head_diameter.value = seat.counterbore;
        h.head_depth.value = seat.counterbore_depth;
      } else if (h.head == Hole::Head::Countersink && seat.countersink > 0) {
        h.head_diameter.value = seat.countersink;
        h.head_angle.value = standards::kCountersinkAngle / kDegrees;
      }
      show(h);
    }
    update(false);
  }
  void takeThread() {
    const QString name = thread_->currentText();
    for (const standards::Thread& thread : standards::metric_threads()) {
      if (!thread.coarse || QString::fromStdString(thread.name()) != name) continue;
      const QSignalBlocker block(diameter_);
      diameter_->setValue(thread.tap_drill());
    }
    update(false);
  }
  std::vector<Grip> grips() override {
    const auto centre = centreOf(chosen_.empty() ? 0 : *chosen_.begin());
    if (traced() == nullptr || !centre) return {};
    const Placement& base = traced()->base;
    const Vec2 rim = *centre + Vec2(diameter_->value() / 2, 0);
    std::vector<Grip> all{{diameter_, base.to_space(rim, traced()->level), base.x, 2,
                           reading_ ? std::optional(reading_->diameter) : std::nullopt}};
    if (reach_->currentIndex() == 1) {
      all.push_back({to_, base.to_space(*centre, to_->value()), base.normal});
      all.push_back({from_, base.to_space(*centre, from_->value()), base.normal});
    }
    return all;
  }
  [[nodiscard]] std::optional<Vec2> centreOf(sketch::Id id) const {
    if (traced() == nullptr) return std::nullopt;
    const sketch::Sketch& s = traced()->sketch;
    if (const sketch::Point* point = s.find_point(id)) return point->at;
    const sketch::Entity* e = s.find_entity(id);
    if (e == nullptr) return std::nullopt;
    return s.position(e->centre);
  }
  void bodiesChosen() override { update(false); }
  void tryAgain() override { update(false); }
  void sketchChanged() override { update(true); }
  void choose(sketch::Id entity) override {
    if (!sketch::has_radius(traced()->sketch.find_entity(entity)))
      return setError(tr("A hole needs circles; this is %1.")
                          .arg(QString::fromStdString(sketch::name_of(traced()->sketch, entity))));
    if (chosen_.contains(entity))
      chosen_.erase(entity);
    else
      chosen_.insert(entity);
    update(true);
  }
  /// Where nothing is chosen, the points drawn for themselves are meant.
  [[nodiscard]] std::vector<sketch::Id> places() const {
    std::vector<sketch::Id> ids(chosen_.begin(), chosen_.end());
    if (!ids.empty() || traced() == nullptr) return ids;
    for (const sketch::Point& point : traced()->sketch.points) {
      if (point.own) ids.push_back(point.id);
    }
    return ids;
  }
  [[nodiscard]] Hole feature() const {
    Hole h = feature_;
    h.bodies = bodies();
    h.sketch = traced() != nullptr ? traced()->id : 0;
    h.circles = places();
    h.diameter.value = diameter_->value();
    if (reach_->currentIndex() == 1) {
      h.extent.reach = model::Reach::Levels;
      h.extent.from.value = from_->value();
      h.extent.to.value = to_->value();
    } else {
      h.extent.reach = model::Reach::Through;
    }
    h.bottom = static_cast<Hole::Bottom>(bottom_->currentIndex());
    h.head = static_cast<Hole::Head>(head_->currentIndex());
    h.head_diameter.value = head_diameter_->value();
    h.head_depth.value = head_depth_->value();
    h.head_angle.value = head_angle_->value() / kDegrees;
    h.entry.value = entry_->value();
    h.from_below = from_below_->isChecked();
    h.thread = thread_->currentIndex();
    h.fit = static_cast<Hole::Fit>(class_->currentIndex());
    h.modelled = modelled_->isChecked();
    return h;
  }
  /// Reads the circles when asked to, takes what they say unless it is kept, and tries the step.
  void update(bool read, bool keep_value = false) {
    draw();
    showRows();
    setKeepEnabled(false);
    if (traced() == nullptr)
      return setError(tr("There is no sketch yet. Take a section in Trace first."));
    if (places().empty()) return setEvidence(tr("Click the circles to drill."));
    aside([this, read, keep_value, ground = ground(), feature = feature(), reading = reading_,
           head = head_reading_, levels = levels_](const Task& task) mutable -> Session::Finish {
      if (read) {
        const project::TracedSketch& sketch = *ground.document->find_sketch(feature.sketch);
        reading = reading::read_diameter(sketch, feature.circles);
        if (reading && !keep_value) feature.diameter.value = reading->diameter;
        levels = reading::suggest_extent(
            reading::find_levels(*ground.document, sketch, {feature.circles, {}}), sketch.level);
        if (!keep_value) {
          if (levels.below) feature.extent.from.value = levels.below->level;
          if (levels.above) feature.extent.to.value = levels.above->level;
        }
        head = reading::read_head(*ground.document, sketch, feature.circles,
                                  reading ? reading->diameter : feature.diameter.value);
        if (head && !keep_value) {
          feature.head = head->head;
          feature.head_diameter.value = head->diameter;
          if (head->depth > 0) feature.head_depth.value = head->depth;
          if (head->angle > 0) feature.head_angle.value = head->angle;
          feature.entry.value = head->entry;
          feature.from_below = head->from_below;
        } else if (levels.above && !keep_value) {
          feature.entry.value = levels.above->level;
        }
      }
      return [this, feature, reading, head, levels, trial = ground.attempt(feature, task)] {
        reading_ = reading;
        head_reading_ = head;
        levels_ = levels;
        show(feature);
        if (!showTrial(trial)) return;
        setEvidence(words(feature));
      };
    });
  }
  [[nodiscard]] QString words(const Hole& h) const {
    const bool through = h.extent.reach == model::Reach::Through;
    QString text = through ? tr("%1 places, through everything").arg(h.circles.size())
                           : tr("%1 places, between levels").arg(h.circles.size());
    const auto say = [](double value, double u) {
      return QString::fromStdString(length_reading(value, u));
    };
    if (reading_) text += tr("\nscan: \u2300 %1").arg(say(reading_->diameter, reading_->u));
    if (head_reading_) {
      const bool bore = head_reading_->head == Hole::Head::Counterbore;
      text += (bore ? tr("\nscan: counterbore \u2300 %1") : tr("\nscan: countersink \u2300 %1"))
                  .arg(say(head_reading_->diameter, head_reading_->u_diameter));
      if (bore) text += tr(", deep %1").arg(say(head_reading_->depth, head_reading_->u_depth));
      text += tr(", at %1 holes").arg(head_reading_->holes);
    }
    return text;
  }

  Hole feature_;
  QDoubleSpinBox *diameter_, *from_, *to_, *head_diameter_, *head_depth_, *head_angle_, *entry_;
  QLabel *from_label_, *to_label_, *head_diameter_label_, *head_depth_label_, *head_angle_label_,
      *entry_label_, *bottom_label_, *class_label_;
  QComboBox *screw_, *thread_, *class_, *reach_, *bottom_, *head_;
  QCheckBox *from_below_, *modelled_;
  std::optional<reading::DiameterReading> reading_;
  std::optional<reading::HeadReading> head_reading_;
  reading::LevelPair levels_;
};

}  // namespace

Tool hole_tool() {
  Tool tool = step_tool(
      model::Hole::kind, Tool::Needs::Model,
      [](Workplace place, project::Id step) -> ToolCard* { return new HoleTool(place, step); });
  tool.takes = {Item::Kind::Sketch};
  return tool;
}

}  // namespace lostline::app
