#include "commands/outlines.h"

#include <algorithm>

#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QLabel>
#include <QVBoxLayout>

#include "edit/items.h"
#include "edit/traced.h"
#include "io/svg_paths.h"
#include "io/text_file.h"
#include "numbers.h"
#include "session/session.h"
#include "window/number_field.h"

namespace rubble::app {

namespace {

/// How wide a drawing is taken to be that does not say so.
constexpr double k_usual_width_m = 30;

Box2 box_of(const io::SvgDrawing& drawing) {
    Box2 box;
    for (const io::SvgPath& path : drawing.paths)
        for (const Vec2& p : path.points) box.add(p);
    return box;
}

/// The lines in metres, their lower left corner at the origin.
std::vector<edit::PlanLine> lines_of(const io::SvgDrawing& drawing, double metres_per_unit) {
    const Vec2 corner = box_of(drawing).low;
    std::vector<edit::PlanLine> out;
    for (const io::SvgPath& path : drawing.paths) {
        edit::PlanLine line{path.name, path.points, path.closed, path.shape};
        for (Vec2& p : line.points) p = (p - corner) * metres_per_unit;
        out.push_back(std::move(line));
    }
    return out;
}

/// What is asked before: how wide the whole is, what closed lines become, how high.
class OutlinesDialog : public QDialog {
public:
    OutlinesDialog(Session& session, const io::SvgDrawing& drawing, QWidget& window)
        : QDialog(&window),
          session_(session),
          drawing_(drawing) {
        setWindowTitle(Session::tr("Bring in outlines"));
        auto* column = new QVBoxLayout(this);
        auto* form = new QFormLayout;
        const Box2 box = box_of(drawing);
        const double units = std::max({box.high.x - box.low.x, box.high.y - box.low.y, 1e-9});
        width_m_ = drawing.metres_per_unit > 0 ? drawing.metres_per_unit * units : k_usual_width_m;
        units_ = units;
        as_.height_m = session.project().measures.ceiling_m;
        as_.thickness_m = session.project().measures.wall_m;
        add_number(*form, Session::tr("Longer side"), width_m_, 0.5);
        add_number(*form, Session::tr("Height"), as_.height_m, 0.5);
        add_number(*form, Session::tr("Thickness of walls"), as_.thickness_m, 0.05);
        auto* become = new QComboBox;
        become->setAccessibleName(Session::tr("Closed lines become"));
        become->addItems({Session::tr("Outlines, with holes"), Session::tr("Walls along them")});
        form->addRow(Session::tr("Closed lines become"), become);
        column->addLayout(form);
        says_ = new QLabel;
        says_->setWordWrap(true);
        column->addWidget(says_);
        auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
        column->addWidget(buttons);
        connect(become, &QComboBox::currentIndexChanged, this, [this](int i) {
            as_.walls = i == 1;
            trace();
        });
        connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
        connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
        trace();
    }
    edit::Traced take() { return std::move(traced_); }

private:
    void add_number(QFormLayout& form, const QString& name, double& value, double step) {
        auto* field = new NumberField(name, step, QStringLiteral("m"));
        field->show_value(value);
        connect(field, &NumberField::changedTo, this, [this, &value](double now) {
            value = std::clamp(now, 0.001, 10000.0);
            trace();
        });
        form.addRow(name, field);
    }
    void trace() {
        traced_ = edit::traced(session_.stored_level(), lines_of(drawing_, width_m_ / units_), as_);
        QStringList text{counted(int(traced_.items.size()), Session::tr("brush"), Session::tr("brushes"))};
        if (traced_.left_out > 0)
            text << counted(traced_.left_out,
                            Session::tr("line crosses itself or has no extent, and is left out"),
                            Session::tr("lines cross themselves or have no extent, and are left out"));
        for (const std::string& remark : drawing_.remarks) text << QString::fromStdString(remark);
        says_->setText(text.join('\n'));
    }

    Session& session_;
    const io::SvgDrawing& drawing_;
    edit::TracedAs as_;
    double width_m_ = k_usual_width_m, units_ = 1;
    QLabel* says_;
    edit::Traced traced_;
};

} // namespace

bool bring_in_outlines(Session& session, QWidget& window, QString file) {
    if (file.isEmpty())
        file = QFileDialog::getOpenFileName(&window, Session::tr("Bring in outlines"), {},
                                            Session::tr("Drawings (*.svg);;All files (*)"));
    if (file.isEmpty()) return false;
    const auto refuse = [&](const Error& error) {
        session.documents().show_message(QString::fromStdString(error.text()));
        return false;
    };
    const auto text = io::read_file(file.toStdString());
    if (!text) return refuse(text.error());
    const auto drawing = io::svg_from_text(*text, file.toStdString());
    if (!drawing) return refuse(drawing.error());
    if (drawing->paths.empty()) {
        session.documents().show_message(Session::tr("There are no lines in the drawing"));
        return false;
    }
    OutlinesDialog dialog(session, *drawing, window);
    if (dialog.exec() != QDialog::Accepted) return false;
    const edit::Traced traced = dialog.take();
    if (traced.items.empty()) return false;
    Level level = session.stored_level();
    std::vector<ItemId> ids;
    for (const Item& item : traced.items) {
        level = edit::with_item(level, session.layer(), item);
        ids.push_back(item.id);
    }
    session.apply(std::move(level), Session::tr("Bring in outlines"));
    session.select(ids);
    return true;
}

} // namespace rubble::app
