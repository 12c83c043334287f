#pragma once

#include <QFrame>

#include "session/session.h"

namespace rubble::app {

class NumberField;

/// Asks how often, how far on and by which turn the selection is repeated, and shows it meanwhile.
class RepeatPanel : public QFrame {
    Q_OBJECT
public:
    RepeatPanel(Session& session, QWidget& window);
    void open();

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void show_preview();
    void finish(bool keep);

    Session& session_;
    double times_ = 3;
    Vec3 step_{2, 0, 0};
    double turn_deg_ = 0;
    std::vector<NumberField*> fields_;
};

} // namespace rubble::app
