#include <QCheckBox>
#include <QEvent>
#include <QFileDialog>
#include <QListWidget>
#include <QSpinBox>
#include <map>

#include "bench/sketch_marks.h"
#include "io/step.h"
#include "look/catalogue.h"
#include "look/file_filter.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "model/face_refs.h"
#include "project/bodies.h"
#include "reading/step_reading.h"
#include "tools/build/step_tool.h"
#include "tools/reference_field.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

QString words(const char* name) {
  return QCoreApplication::translate("steps", name).replace(QLatin1Char('_'), QLatin1Char(' '));
}

/// The card of a kind of step as its description has it: a field for every number and choice, a
/// place for everything that is picked. The scan's readings come from the kind as well.
class DescribedTool : public StepTool {
 public:
  DescribedTool(Workplace place, project::Id step, const model::FeatureKind& kind)
      : StepTool(place, QCoreApplication::translate("steps", kind.title), step,
                 words(kind.title).toLower() +
                     QStringLiteral(" %1").arg(place.session.document().steps.size() + 1)),
        feature_(editedStep() != nullptr ? editedStep()->feature : kind.make()) {
    Builder builder(*this);
    feature_.describe(builder);
    showRows();
    wait(0);
  }
  void begin() override {
    place_.bench.setShow(Show::Model);
    update(step_ == 0);
  }
  bool entered() override {
    // Return behind the path reads the file; the next one keeps it.
    if (path_ == nullptr || !path_->hasFocus()) return false;
    place_.bench.setFocus();
    readModel(path_->text());
    return true;
  }
  bool keep() override {
    std::vector<project::FieldReading> readings;
    for (const model::Field& f : model::fields_of(feature_)) {
      const Number& number = numbers_.at(f.info.name);
      const auto said = std::find_if(said_.begin(), said_.end(), [&](const auto& reading) {
        return reading.field == f.info.name;
      });
      readings.push_back(said != said_.end()
                             ? field(f.info.name, number.box, said->reading, said->u, said->source)
                             : field(f.info.name, number.box, std::nullopt, 0, "typed"));
    }
    commit(feature_, readings);
    return false;
  }

 private:
  struct Number {
    QDoubleSpinBox* box;
    QLabel* label;
    bool angle;
  };
  /// Something picked on the Bench: edges, faces, or a plane or axis.
  struct Picked {
    QPushButton* button = nullptr;
    ReferenceField* reference = nullptr;
    QLabel* label = nullptr;
    std::vector<model::EdgeRef>* edges = nullptr;
    std::vector<std::string>* faces = nullptr;
    std::vector<std::string>* bodies = nullptr;
    std::vector<Vec2>* places = nullptr;  ///< in a sketch
    bool required = true;
    QString what, one;  ///< "faces", "face"

    [[nodiscard]] std::size_t count() const {
      return faces != nullptr    ? faces->size()
             : bodies != nullptr ? bodies->size()
             : places != nullptr ? places->size()
                                 : edges->size();
    }
  };

  /// Sketches to be ticked.
  struct List {
    QListWidget* widget;
    std::size_t most;
  };
  static std::vector<model::Id> ticked(const QListWidget* list) {
    std::vector<model::Id> ids;
    for (int k = 0; k < list->count(); ++k) {
      if (list->item(k)->checkState() == Qt::Checked)
        ids.push_back(list->item(k)->data(Qt::UserRole).toULongLong());
    }
    return ids;
  }
  /// The chosen ones in their order, then the others.
  void fillList(const List& list, const std::vector<model::Id>& chosen) {
    const QSignalBlocker block(list.widget);
    const QSignalBlocker block_model(list.widget->model());
    list.widget->clear();
    const auto add = [&](const project::TracedSketch& sketch, bool on) {
      auto* item = new QListWidgetItem(QString::fromStdString(sketch.name), list.widget);
      item->setData(Qt::UserRole, QVariant::fromValue<qulonglong>(sketch.id));
      item->setCheckState(on ? Qt::Checked : Qt::Unchecked);
    };
    for (const model::Id id : chosen) {
      if (const project::TracedSketch* sketch = document().find_sketch(id)) add(*sketch, true);
    }
    for (const auto& sketch : document().sketches) {
      if (std::find(chosen.begin(), chosen.end(), sketch->id) == chosen.end()) add(*sketch, false);
    }
  }
  void refill() override {
    for (const auto& [name, list] : lists_) fillList(list, ticked(list.widget));
  }
  /// A sketch chosen in Evidence is ticked where one is wanted; a body is taken by its key, for one
  /// that is a curve has no face that could be clicked.
  void take(const Item& item) override {
    const auto body = item.kind == Item::Kind::Body ? shownModel().find_body(item.name)
                                                    : std::optional<std::size_t>();
    if (body && waiting_ < picked_.size() && picked_[waiting_].bodies != nullptr) {
      toggleBody(*picked_[waiting_].bodies, shownModel().body(*body));
      showPicked();
      return update(true);
    }
    if (item.kind != Item::Kind::Sketch) return StepTool::take(item);
    for (const auto& [name, list] : lists_) {
      if (list.most == 1 && !ticked(list.widget).empty()) continue;
      for (int k = 0; k < list.widget->count(); ++k) {
        QListWidgetItem* row = list.widget->item(k);
        if (row->data(Qt::UserRole).toULongLong() != item.id || row->checkState() == Qt::Checked)
          continue;
        return row->setCheckState(Qt::Checked);
      }
    }
  }
  /// The sketches ticked, on the Bench.
  void drawSketches() {
    std::vector<LineBatch> marks;
    for (const auto& [name, list] : lists_) {
      for (const model::Id id : ticked(list.widget)) {
        const project::TracedSketch* t = document().find_sketch(id);
        if (t == nullptr) continue;
        for (LineBatch& batch : sketch_marks(t->base, t->level, {}, t->sketch, {}, {}, false, 1))
          marks.push_back(std::move(batch));
      }
    }
    if (!lists_.empty()) place_.bench.setMarks(marks);
  }

  /// Makes the fields, in the order of the description.
  class Builder : public model::Listener {
   public:
    explicit Builder(DescribedTool& tool) : tool_(tool) {}
    void number(const model::NumberInfo& info, model::Quantity& q) override {
      const bool angle = info.is_angle();
      const double least = info.sign == model::NumberInfo::Sign::Positive ? 0 : angle ? -360 : -1e5;
      const QString name = QString::fromUtf8(info.name);
      QDoubleSpinBox* box = angle ? StepTool::number(q.value * kDegrees, least, 360, 0.5, 3, name)
                                  : length(q.value, least, 1e5, 0.5, 3, name);
      const QString label = info.unit == model::NumberInfo::Unit::Diameter ? tr("\u2300")
                            : info.unit == model::NumberInfo::Unit::Radius ? tr("R")
                                                                           : words(info.name);
      QLabel* text = tool_.addRow(
          angle ? label + QStringLiteral(", \u00b0") : in_unit(label + QStringLiteral(", mm")),
          box);
      tool_.numbers_[info.name] = {box, text, angle};
      connect(box, &QDoubleSpinBox::valueChanged, &tool_, [t = &tool_] { t->update(false); });
    }
    void count(const model::CountInfo& info, int& n) override {
      auto* box = new QSpinBox;
      box->setRange(info.least, info.most);
      box->setValue(n);
      box->setAlignment(Qt::AlignRight);
      box->setButtonSymbols(QAbstractSpinBox::NoButtons);
      box->setKeyboardTracking(false);
      box->setObjectName(QString::fromUtf8(info.name));
      tool_.addRow(words(info.name), box);
      tool_.counts_[info.name] = box;
      connect(box, &QSpinBox::valueChanged, &tool_, [t = &tool_] { t->update(false); });
    }
    void flag(const char* name, bool& on) override {
      auto* box = new QCheckBox(words(name));
      box->setChecked(on);
      box->setObjectName(QString::fromUtf8(name));
      tool_.addWide(box);
      tool_.flags_[name] = box;
      connect(box, &QCheckBox::toggled, &tool_, [t = &tool_] { t->update(false); });
    }
    void reference(const model::ReferenceInfo& info, model::Reference& reference) override {
      using Wants = model::ReferenceInfo::Wants;
      auto* field =
          new ReferenceField(info.wants == Wants::Axis    ? ReferenceField::Wants::Axis
                             : info.wants == Wants::Plane ? ReferenceField::Wants::Plane
                                                          : ReferenceField::Wants::Surface,
                             QString::fromUtf8(info.name));
      field->assign(reference, tool_.document());
      field->installEventFilter(&tool_);
      Picked picked;
      picked.reference = field;
      picked.label = tool_.addRow(words(info.name), field);
      tool_.references_[info.name] = field;
      tool_.picked_.push_back(picked);
      connect(field, &ReferenceField::referenceChanged, &tool_, [t = &tool_] { t->update(true); });
    }
    void edges(const char* name, std::vector<model::EdgeRef>& edges) override {
      Picked picked;
      picked.edges = &edges;
      picked.what = tr("edges");
      picked.one = tr("edge");
      add(name, picked);
    }
    void faces(const char* name, std::vector<std::string>& faces) override {
      Picked picked;
      picked.faces = &faces;
      picked.what = tr("faces");
      picked.one = tr("face");
      add(name, picked);
    }

    void areas(const char* name, std::vector<Vec2>& places) override {
      Picked picked;
      picked.places = &places;
      picked.required = false;
      picked.what = tr("an outline");
      picked.one = tr("outline");
      add(name, picked);
    }
    void bodies(const model::BodiesInfo& info, std::vector<std::string>& bodies) override {
      Picked picked;
      picked.bodies = &bodies;
      picked.required = info.required;
      picked.what = tr("bodies");
      picked.one = tr("body");
      add(info.name, picked);
    }
    void imported(const char* name, std::shared_ptr<const model::Imported>& model) override {
      auto* path = new QLineEdit(model ? QString::fromStdString(model->file) : QString());
      path->setObjectName(QString::fromUtf8(name));
      path->setPlaceholderText(tr("file of the model"));
      tool_.addRow(words(name), path);
      tool_.import_ = &model;
      tool_.path_ = path;
      auto* browse = new QPushButton(tr("choose \u2026"));
      connect(browse, &QPushButton::clicked, &tool_, [t = &tool_, path] {
        const QString file = QFileDialog::getOpenFileName(
            t, tr("Model to import"), {}, file_filter(tr("Models"), {io::reads_model}));
        if (file.isEmpty()) return;
        path->setText(file);
        t->readModel(file);
      });
      tool_.addWide(browse);
    }

    void sketches(const model::SketchesInfo& info, std::vector<model::Id>& ids) override {
      auto* list = new QListWidget;
      list->setObjectName(QString::fromUtf8(info.name));
      list->setAccessibleName(words(info.name));
      list->setMaximumHeight(info.most > 1 ? 120 : 72);
      if (info.most > 1) {
        list->setDragDropMode(QAbstractItemView::InternalMove);
        list->setToolTip(tr("Tick the sketches; drag them into their order"));
        connect(list->model(), &QAbstractItemModel::rowsMoved, &tool_,
                [t = &tool_] { t->update(false); });
      } else {
        list->setToolTip(tr("Tick the sketch"));
      }
      tool_.addRow(words(info.name), list);
      tool_.lists_[info.name] = {list, info.most};
      tool_.fillList(tool_.lists_.at(info.name), ids);
      connect(list, &QListWidget::itemChanged, &tool_,
              [t = &tool_, list, most = info.most](QListWidgetItem* item) {
                // One only: the last one ticked.
                if (most == 1 && item->checkState() == Qt::Checked) {
                  const QSignalBlocker block(list);
                  for (int k = 0; k < list->count(); ++k) {
                    if (list->item(k) != item) list->item(k)->setCheckState(Qt::Unchecked);
                  }
                }
                t->update(false);
              });
    }

   private:
    void choose(const model::ChoiceInfo& info, int& value) override {
      auto* box = new QComboBox;
      for (const char* word : info.words) box->addItem(words(word));
      box->setCurrentIndex(value);
      box->setObjectName(QString::fromUtf8(info.name));
      tool_.addRow(words(info.name), box);
      tool_.choices_[info.name] = box;
      connect(box, &QComboBox::currentIndexChanged, &tool_, [t = &tool_] { t->update(true); });
    }
    void add(const char* name, Picked picked) {
      picked.button = new QPushButton;
      picked.button->setObjectName(QString::fromUtf8(name));
      picked.button->setToolTip(tr("Click here, then on the model; a second click takes back"));
      picked.label = tool_.addRow(words(name), picked.button);
      const std::size_t place = tool_.picked_.size();
      connect(picked.button, &QPushButton::clicked, &tool_,
              [t = &tool_, place] { t->wait(place); });
      tool_.picked_.push_back(picked);
    }
    DescribedTool& tool_;
  };

  /// Takes what the fields show.
  class Taker : public model::Listener {
   public:
    explicit Taker(const DescribedTool& tool) : tool_(tool) {}
    void number(const model::NumberInfo& info, model::Quantity& q) override {
      const Number& number = tool_.numbers_.at(info.name);
      q.value = number.angle ? number.box->value() / kDegrees : number.box->value();
    }
    void count(const model::CountInfo& info, int& n) override {
      n = tool_.counts_.at(info.name)->value();
    }
    void flag(const char* name, bool& on) override { on = tool_.flags_.at(name)->isChecked(); }
    void sketches(const model::SketchesInfo& info, std::vector<model::Id>& ids) override {
      ids = ticked(tool_.lists_.at(info.name).widget);
    }
    void reference(const model::ReferenceInfo& info, model::Reference& reference) override {
      reference = tool_.references_.at(info.name)->reference();
    }

   private:
    void choose(const model::ChoiceInfo& info, int& value) override {
      value = tool_.choices_.at(info.name)->currentIndex();
    }
    const DescribedTool& tool_;
  };

  /// Shows the rows that are in force.
  class Shower : public model::Listener {
   public:
    explicit Shower(const DescribedTool& tool) : tool_(tool) {}
    void number(const model::NumberInfo& info, model::Quantity&) override {
      const Number& number = tool_.numbers_.at(info.name);
      number.box->setVisible(info.in_force);
      number.label->setVisible(info.in_force);
    }
    void reference(const model::ReferenceInfo& info, model::Reference&) override {
      for (const Picked& p : tool_.picked_) {
        if (p.reference != tool_.references_.at(info.name)) continue;
        p.reference->setVisible(info.in_force);
        p.label->setVisible(info.in_force);
      }
    }

   private:
    const DescribedTool& tool_;
  };

  bool eventFilter(QObject* object, QEvent* event) override {
    if (event->type() == QEvent::FocusIn) {
      for (std::size_t i = 0; i < picked_.size(); ++i) {
        if (picked_[i].reference == object) wait(i);
      }
    }
    return StepTool::eventFilter(object, event);
  }
  void wait(std::size_t place) {
    waiting_ = place;
    showPicked();
  }
  void tryAgain() override {
    showPicked();
    update(false);
  }
  void showRows() {
    Shower shower(*this);
    feature_.describe(shower);
    settleHeight();
  }
  void showPicked() {
    std::vector<std::uint32_t> marked;
    const model::Model solid = shownModel();
    for (std::size_t i = 0; i < picked_.size(); ++i) {
      const Picked& p = picked_[i];
      if (p.reference != nullptr) p.reference->setWaiting(i == waiting_);
      if (p.faces != nullptr) {
        for (const std::string& name : *p.faces) {
          for (const std::size_t face : model::faces_meant(solid, name).faces)
            marked.push_back(static_cast<std::uint32_t>(face));
        }
      }
      if (p.bodies != nullptr) {
        for (std::size_t face = 0; face < solid.face_count(); ++face) {
          if (named(*p.bodies, solid.body(solid.body_of_face(face))))
            marked.push_back(static_cast<std::uint32_t>(face));
        }
      }
      if (p.button == nullptr) continue;
      const std::size_t count = p.count();
      p.button->setText(
          count == 0 ? (p.required ? tr("click %1 of the model") : tr("none; click %1")).arg(p.what)
          : count == 1 ? one(p)
                       : QStringLiteral("%1 %2").arg(count).arg(p.what));
      p.button->setStyleSheet(i == waiting_
                                  ? QStringLiteral("border: 1px solid %1; text-align: left;")
                                        .arg(role::red_pencil.name())
                                  : QStringLiteral("text-align: left;"));
    }
    place_.bench.setModelSelection(marked);
  }
  void pick(const Pick& pick) override {
    if (waiting_ >= picked_.size()) return;
    const Picked& p = picked_[waiting_];
    const model::Model solid = shownModel();
    if (p.reference != nullptr) {
      if (!p.reference->offer(pick, ground().before, document()))
        setEvidence(tr("Click a flat or turned face, a region or a fit."));
      return;
    }
    if (p.places != nullptr) return pickOutline(*p.places, pick.screen);
    if (p.bodies != nullptr) {
      const auto body = bodyAt(pick);
      if (!body) return setEvidence(tr("Click a body of the model."));
      toggleBody(*p.bodies, *body);
    } else if (p.faces != nullptr) {
      if (pick.what != Pick::What::Model || pick.face >= solid.face_count())
        return setEvidence(tr("Click a face of the model."));
      toggle(*p.faces, solid.face_name(pick.face));
    } else {
      if (!pick.edge) return setEvidence(tr("Click an edge of the model."));
      const model::EdgeRef ref = solid.ref_of_edge(*pick.edge, pick.point);
      const auto same = std::find_if(p.edges->begin(), p.edges->end(), [&](const auto& e) {
        return solid.find_edge(e) == solid.find_edge(ref);
      });
      if (same != p.edges->end())
        p.edges->erase(same);
      else
        p.edges->push_back(ref);
    }
    showPicked();
    update(true);
  }
  /// A place in the plane of the first sketch that is ticked.
  void pickOutline(std::vector<Vec2>& places, const QPointF& screen) {
    for (const auto& [name, list] : lists_) {
      const auto ids = ticked(list.widget);
      const project::TracedSketch* t = ids.empty() ? nullptr : document().find_sketch(ids.front());
      if (t == nullptr) continue;
      const auto at = plane_point(place_.bench.camera(), t->base, t->level, screen);
      if (!at) break;
      places = {*at};
      showPicked();
      return update(true);
    }
    setEvidence(tr("Tick the sketches first, then click the outline in the first of them."));
  }
  void pickRef(const project::FitRef& ref) override {
    if (waiting_ < picked_.size() && picked_[waiting_].reference != nullptr)
      picked_[waiting_].reference->offer(ref, document());
  }
  /// One body by its name, so that it can be told from the others.
  [[nodiscard]] QString one(const Picked& p) const {
    const model::Model solid = shownModel();
    const auto body = p.bodies != nullptr ? solid.find_body(p.bodies->front()) : std::nullopt;
    return body ? QString::fromStdString(project::body_title(document(), solid.body(*body)))
                : tr("1 %1").arg(p.one);
  }
  static bool named(const std::vector<std::string>& keys, const model::Body& body) {
    return std::any_of(keys.begin(), keys.end(), [&](const auto& key) { return body.is(key); });
  }
  static void toggleBody(std::vector<std::string>& keys, const model::Body& body) {
    if (named(keys, body))
      std::erase_if(keys, [&](const std::string& key) { return body.is(key); });
    else
      keys.push_back(body.key);
  }
  /// Reads the file of a model to import, off the interface's thread.
  void readModel(const QString& path) {
    setKeepEnabled(false);
    setEvidence(tr("reading %1 \u2026").arg(path));
    aside([this, path = path.toStdString()](const Task&) -> Session::Finish {
      return [this, imported = io::import_step(path)] {
        if (!imported) return setError(core_text(imported.error().message));
        *import_ = *imported;
        update(false);
      };
    });
  }
  static void toggle(std::vector<std::string>& names, const std::string& name) {
    const auto known = std::find(names.begin(), names.end(), name);
    if (known != names.end())
      names.erase(known);
    else
      names.push_back(name);
  }
  /// Reads the scan when asked to, takes what it says, and tries the step.
  void update(bool read) {
    Taker taker(*this);
    feature_.describe(taker);
    showRows();
    drawSketches();
    setKeepEnabled(false);
    for (std::size_t i = 0; i < picked_.size(); ++i) {
      const Picked& p = picked_[i];
      if (!p.required) continue;
      const bool empty = p.reference != nullptr ? p.reference->reference().empty() : p.count() == 0;
      if (!empty || (p.reference != nullptr && p.reference->isHidden())) continue;
      wait(i);
      return setEvidence(p.reference != nullptr ? tr("Now say the %1.").arg(p.label->text())
                                                : tr("Click %1 of the model.").arg(p.what));
    }
    if (import_ != nullptr && *import_ == nullptr)
      return setEvidence(tr("Choose the file of the model: %1.")
                             .arg(QString::fromStdString(io::format_names({io::reads_model}))));
    aside([this, read, ground = ground(), feature = feature_,
           said = said_](const Task& task) mutable -> Session::Finish {
      if (read) {
        said = reading::read_step(*ground.document, feature, ground.before, ground.step, task);
        for (const model::Field& f : model::fields_of(feature)) {
          for (const auto& reading : said) {
            // Where zero makes no sense, a reading that is zero within its U says nothing is to do.
            const auto& value = reading.reading ? reading.reading : reading.intent;
            if (reading.field == f.info.name && value &&
                (f.info.sign == model::NumberInfo::Sign::Any || std::abs(*value) > reading.u))
              f.quantity->value = f.info.is_angle() ? *value / kDegrees : *value;
          }
        }
      }
      return [this, feature, said, trial = ground.attempt(feature, task)]() mutable {
        said_ = said;
        for (const model::Field& f : model::fields_of(feature)) {
          const Number& number = numbers_.at(f.info.name);
          const QSignalBlocker block(number.box);
          number.box->setValue(number.angle ? f.quantity->value * kDegrees : f.quantity->value);
        }
        Taker taker(*this);
        feature_.describe(taker);
        if (showTrial(trial))
          setEvidence(
              tr("%1 cm\u00b3 after this step")
                  .arg(QString::fromStdString(format_fixed(trial.solid->volume() / 1000, 2))) +
              readings());
        else
          setError(core_text(trial.solid.error().message) + readings());
      };
    });
  }
  /// At the first face picked, along its normal: where the step has one length, or one angle that
  /// walls lean by.
  std::vector<Grip> grips() override {
    std::string name;
    for (const bool angles : {false, true}) {
      const auto wanted = [&](const auto& entry) {
        return entry.second.angle == angles && !entry.second.box->isHidden();
      };
      const auto count = std::count_if(numbers_.begin(), numbers_.end(), wanted);
      if (count > 1) return {};
      if (count == 1 && name.empty())
        name = std::find_if(numbers_.begin(), numbers_.end(), wanted)->first;
    }
    if (name.empty()) return {};
    QDoubleSpinBox* box = numbers_.at(name).box;
    const auto faces = std::find_if(picked_.begin(), picked_.end(), [](const Picked& p) {
      return p.faces != nullptr && !p.faces->empty();
    });
    const auto triangles = shownTriangles();
    if (faces == picked_.end() || !triangles) return {};
    const auto face = shownModel().find_face(faces->faces->front());
    if (!face) return {};
    Vec3 centre = Vec3::Zero();
    Vec3 normal = Vec3::Zero();
    double area = 0;
    for (std::size_t t = 0; t < triangles->mesh.triangles.size(); ++t) {
      if (triangles->triangle_face[t] != *face) continue;
      const Vec3 vector = triangles->mesh.area_vector(t);
      centre += vector.norm() * triangles->mesh.centroid(t);
      normal += vector;
      area += vector.norm();
    }
    // A face that curls round has no one normal.
    if (!(area > 0) || normal.norm() < 0.5 * area) return {};
    const auto said = std::find_if(said_.begin(), said_.end(),
                                   [&](const auto& reading) { return reading.field == name; });
    const auto reading = said != said_.end() ? said->reading : std::nullopt;
    if (!numbers_.at(name).angle) return {{box, centre / area, normal.normalized(), 1, reading}};
    // Leaning inwards is positive; half the face's size stands for its height over what stays.
    return {{box, centre / area, normal.normalized(), -kDegrees / (0.25 * std::sqrt(area)), reading,
             standards::Quantity::Angle}};
  }
  /// What the scan says, a line each.
  [[nodiscard]] QString readings() const {
    QString text;
    for (const auto& reading : said_) {
      if (!reading.reading) continue;
      const bool angle = numbers_.at(reading.field).angle;
      const std::string value = angle ? format_reading(*reading.reading, reading.u) + "\u00b0"
                                      : length_reading(*reading.reading, reading.u);
      text += tr("\nscan: %1 %2").arg(words(reading.field.c_str()), QString::fromStdString(value));
    }
    return text;
  }

  model::Feature feature_;
  std::map<std::string, Number, std::less<>> numbers_;
  std::map<std::string, QSpinBox*, std::less<>> counts_;
  std::map<std::string, QCheckBox*, std::less<>> flags_;
  std::map<std::string, QComboBox*, std::less<>> choices_;
  std::map<std::string, ReferenceField*, std::less<>> references_;
  std::vector<Picked> picked_;
  std::map<std::string, List, std::less<>> lists_;
  QLineEdit* path_ = nullptr;                                 ///< of a model to import
  std::shared_ptr<const model::Imported>* import_ = nullptr;  ///< of the feature
  std::size_t waiting_ = 0;
  std::vector<project::FieldReading> said_;  ///< by the scan
};

}  // namespace

namespace {

/// What a kind of step is about, by what it is made of.
struct About : model::Listener {
  Tool::Needs needs = Tool::Needs::Nothing;
  bool on_bodies = false;
  bool on_faces = false;
  bool of_sketches = false;
  bool on_surfaces = false;
  std::vector<Item::Kind> takes;
  void reference(const model::ReferenceInfo& info, model::Reference&) override {
    on_surfaces = on_surfaces || info.in_force;
  }
  void sketch(const char*, model::Id&) override { needs = std::max(needs, Tool::Needs::Sketch); }
  void sketches(const model::SketchesInfo&, std::vector<model::Id>&) override {
    needs = std::max(needs, Tool::Needs::Sketch);
    of_sketches = true;
    takes = {Item::Kind::Sketch};
  }
  void edges(const char*, std::vector<model::EdgeRef>&) override {
    needs = Tool::Needs::Model;
    takes = {Item::Kind::Edge};
  }
  void faces(const char*, std::vector<std::string>&) override {
    needs = Tool::Needs::Model;
    on_faces = true;
    takes = {Item::Kind::Face};
  }
  void step(const char*, model::Id&) override { needs = Tool::Needs::Model; }
  void bodies(const model::BodiesInfo& info, std::vector<std::string>&) override {
    // Those that material is for are no reason to stand among the tools of bodies.
    if (std::string_view(info.name) != "bodies" || info.required) on_bodies = true;
    if (!info.required) return;
    needs = Tool::Needs::Model;
    takes = {Item::Kind::Body};
  }
  void imported(const char*, std::shared_ptr<const model::Imported>&) override { on_bodies = true; }
};

}  // namespace

Tool described_tool(const model::FeatureKind& kind) {
  About about;
  model::Feature feature = kind.make();
  feature.describe(about);
  Tool tool = step_tool(kind, about.needs, [&kind](Workplace place, project::Id step) -> ToolCard* {
    return new DescribedTool(place, step, kind);
  });
  tool.takes = about.takes;
  if (about.on_surfaces) tool.group = QT_TRANSLATE_NOOP("tools", "From scan");
  if (about.on_bodies) tool.group = QT_TRANSLATE_NOOP("tools", "Bodies");
  if (about.on_faces) tool.group = QT_TRANSLATE_NOOP("tools", "Faces");
  if (about.of_sketches) tool.group = QT_TRANSLATE_NOOP("tools", "Sketched");
  return tool;
}

}  // namespace lostline::app
