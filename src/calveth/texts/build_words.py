"""What the core says of a build, by its ids: work on edges, acts, remarks, what is bought."""

from __future__ import annotations

WORDS: dict[str, str] = {
    # edges and joints
    "corner rebate": "rebate {ends} {deep} wide and {wide} deep",
    "fingers": "{count} fingers {wide} wide at {ends}; {first} at the foot",
    "mitred ends": "{ends} mitred 45°",
    "lower edge bevel": "lower edge bevelled {angle}",
    "upper edge bevel": "upper edge bevelled {angle}",
    "frame rebate": "rebate inside along the top, {deep} deep and {wide} wide, for the frames",
    "strip rebate": "rebate inside along the top, {deep} deep and {wide} wide, for the strip the "
    "frames hang on",
    "strip cut lower": "cut {deep} lower along the top for the strip the frames hang on, which "
    "goes {wide} into the layer behind",
    "grip": "hand hold {wide} x {high}, {deep} deep, at the middle",
    "tool bevel": "upper outer edge bevelled {deep} for the hive tool",
    "left rough inside": "inside left rough, bees coat it",
    "planed faces": "edges that meet planed until no light shows",
    "drip groove": "drip groove {deep} deep under the edge",
    "strap groove": "groove {wide} wide and {deep} deep across the top for the strap",
    "end grain sealed": "end grain sealed",
    "bent over the dome": "bent over the dome, or of narrow strips",
    # bulk
    "hollow a trunk": "a trunk {across} across and {long} long: hollow out {hollow} across and "
    "{deep} deep, {foot} above its foot; {top} of wood stay above",
    "on a face": "on the {face}",
    "frames of": "{long} long, {high} high",
    "as high as": "{high} high, at the corners under the lid",
    # steps
    "glue panels": "Joint the edges and glue panels from strips; growth rings alternate.",
    "cut boards": "Cut boards to length, then rip to width.",
    "cut sheets": "Cut sheets in the order of the numbered cuts.",
    "cut foam": "Cut the insulation to fit without gaps.",
    "cut fibre": "Cut the fibre boards and mats to fit without gaps.",
    "cut mineral sheets": "Score and break, or saw, the cement or gypsum boards.",
    "cut metal": "Cut the metal sheets and break the edges.",
    "order panes": "Order the panes to size.",
    "work edges": "Work the edges: joints, bevels, rebates, grooves.",
    "drill and saw openings": "Drill round openings and saw slots by the template.",
    "saw blocks": "Saw the blocks along the lines of the courses; {dust} becomes dust.",
    "lay base": "Lay a level base: a plinth of slabs, or a timber frame on posts, with a "
    "damp-proof strip on it.",
    "lay dry": "Lay the courses dry, corners interlocked; tie them with a strap, they shift.",
    "glue courses": "Glue the courses, corners interlocked; wipe the joints smooth inside.",
    "lid frame on blocks": "Screw the timber frame round the top course with plugs for aircrete, "
    "two a side: it carries the lid and takes the hinge.",
    "make moulds": "Make the moulds; give inner faces 2° of draft and oil them.",
    "mix and cast": "Mix by the parts, cast and tamp; form a lip along the top and its groove "
    "below, so that parts lock.",
    "strike moulds": "Strike after two days, keep damp for a week, dry for four.",
    "join floor": "Join the floor: rim on the board, square, entrance to the front.",
    "join boxes": "Join each box square on a flat surface; two boxes must be the same.",
    "join trough": "Join the long sides to the ends.",
    "join eke": "Join the rim that makes room to feed.",
    "join lid": "Join the lid; it must lie without rocking.",
    "join quilt": "Join the sides of the quilt and stretch the cloth under them.",
    "join cover": "Join the cover; it slips over the hive with the gap drawn.",
    "screw strips": "Glue and screw the strips frames hang on into their rebates, level with each "
    "other.",
    "fit divider": "Fit the divider or follower board so that it slides and no queen passes.",
    "lay plates": "Lay the plates between the boxes, gap to the back.",
    "fit insulation": "Fit the insulation tight and cover all of it towards the bees.",
    "fill quilt": "Fill the quilt loosely to the top.",
    "staple mesh": "Staple the mesh over vents and screens.",
    "paint": "Paint or oil the outside.",
    "bolt stand": "Bolt bearers, legs and rails together; set the stand level, a little forward.",
    "hang lid": "Hang the lid on its hinges and fit the stay.",
    "hang frames": "Hang the frames at their pitch and check the gaps with a drill of bee space.",
    "strap it": "Strap it.",
    "try it dry": "Put it all together empty: lid closes, nothing rocks, no light at the joints.",
    # stack
    "deeper frames": "Frames may be {deeper} deeper before bees glue them to what is above.",
    "no deeper frames": "Deeper frames would be glued to what is above.",
    "shim between": "A shim of {shim} between boxes makes a gap of {gap}: bees build into it.",
    "frames that fit": "Frames that fit: {fits}.",
    "lid closes": "Up to {spare} more under the lid, and its rim still covers the joint.",
    "lid too short": "The rim of the lid covers less than {least} of the joint: it will not close.",
    "divider in blocks": "Blocks are true to {play} over the length: a divider keeps a queen back "
    "({queen} let her pass) if it is scribed to the wall.",
    "queen may pass": "Blocks may be {play} out of line: {queen} let a queen pass; scribe the "
    "divider to the wall along all of its edge, or glue the blocks.",
    "neighbour shut in": "The second colony has no entrance of its own: add one in its part of the "
    "front, in the tab Openings.",
    "observation gap": "Behind the follower board {deep} are free: look in there without opening "
    "the nest.",
    "walls move": "Between a dry spring and a wet autumn a box of these boards changes its height "
    "by {moves}.",
    # lifting
    "medium boxes": "boxes of the medium height weigh {kg} full",
    "shallow boxes": "shallow boxes weigh {kg} full",
    "eight frames": "eight frames a box weigh {kg} full",
    "combs one by one": "comb by comb, {kg} each",
    "divided lid": "lid or cover in two halves, {kg} each",
}
"""What a message says, by its id; its values stand in braces."""

BULK: dict[str, str] = {
    "trunk": "trunk",
    "fill": "fill",
    "render": "render",
    "cloth": "cloth or sheet",
    "coat": "paint or oil, two coats",
    "battens by share": "battens 45 mm wide, by their share",
    "mesh": "mesh, 2 to 3 mm",
    "frames": "frames",
    "screws": "screws",
    "bolts": "bolts of the stand",
    "plugs": "plugs for aircrete with screws, two a side",
    "tape": "tape along the edges of foam",
    "hinges": "hinges",
    "stay": "stay of the lid",
    "strap": "strap",
    "anchors": "ground anchors",
    "grease cups": "grease cups",
    "tray": "tray under the screen",
    "spacers": "spacers",
}
"""What is bought otherwise, by its id."""

ROLE: dict[str, str] = {
    "corner posts": "corner post",
    "battens": "batten",
    "legs": "stand",
    "frame strip": "strip for the frames",
    "lid frame": "frame round the top course",
    "top bar": "top bar",
    "cleat": "cleat",
    "quilt sides": "side of quilt",
    "divider plate": "plate",
    "nest bars": "bar under the nest",
    "slatted rack": "slat",
    "window": "pane",
    "window frame": "window frame",
    "entrance block": "entrance block",
    "follower board": "follower board",
    "divider": "divider",
}
"""What fittings are called."""

GAP: dict[str, str] = {
    "under frames": "under the frames",
    "between boxes": "between the boxes",
    "above frames": "above the frames",
    "feed room": "room to feed",
    "plate gap": "plate",
}
"""What gaps of the stack are called."""
