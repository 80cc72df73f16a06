/** What the controls do, for whoever points at them with the explanations turned on. */
export interface Help {
  title: string;
  text: string;
}

export const HELP: Record<string, Help> = {
  'frame/projects': {
    title: 'Projects',
    text: 'Goes to another project. All your projects are listed, the latest first.',
  },
  'frame/jump': {
    title: 'Jump',
    text: 'Finds a container, sheet, issue, person or place by a part of its name and goes there. Ctrl K opens it from anywhere.',
  },
  'frame/bell': { title: 'Notices', text: 'What happened that concerns you. What you have read stays in the list.' },
  'frame/me': { title: 'Your menu', text: 'Your desk, your account with units and mail, and signing out.' },
  'frame/stages': {
    title: 'Stages of the work',
    text: 'From setting up to sending. A number tells how much waits for you at a stage.',
  },
  'frame/views': { title: 'Views', text: 'What can be looked at within the stage of the work that is open.' },
  'frame/related': {
    title: 'Related',
    text: 'Opens beside the page what is tied to the selected thing: versions, issues, markups, viewpoints. K does the same.',
  },
  'scene/models': {
    title: 'Models',
    text: 'Tick a model and it is drawn with the others, each in its own place. A remark tells what could not be read or drawn.',
  },
  'scene/sides': {
    title: 'Elements, levels, filter, colours, schedule',
    text: 'The same elements in five ways: as a tree, level by level, found by their properties, coloured by one of them, or counted and summed in a table.',
  },
  'scene/tree': {
    title: 'Tree of elements',
    text: 'Ordered by storey, class, type, material, system and more. Click to select, the eye hides. Search finds names, types, GlobalIds and values.',
  },
  'scene/levels': {
    title: 'Levels, disciplines, line-ups',
    text: 'One level of all models, or several, or one discipline; the rest is a trace or not there. A line-up keeps models and levels under a name.',
  },
  'scene/filter': {
    title: 'Filter',
    text: 'Conditions on any property. What they find can be selected or isolated. A filter can be kept for yourself or for everybody.',
  },
  'scene/colour': {
    title: 'Colour',
    text: 'Gives each value of a property a colour, with the number of its elements.',
  },
  'scene/picture': {
    title: 'The scene',
    text: 'Drag turns about the point under the pointer, right button or two fingers move, wheel or pinch goes nearer. Click selects, double-click goes there, right click shows what can be done.',
  },
  'scene/home': { title: 'Home', text: 'Shows all that is drawn, as large as it fits.' },
  'scene/mode': {
    title: 'How one moves',
    text: 'Turn about things, look around on the spot, fly, or walk with feet on the floor: doors are passed, walls are not.',
  },
  'scene/view': {
    title: 'View',
    text: 'Perspective or not, a storey as a plan, sun and shadows, storeys lifted apart, and what can be left out to draw faster.',
  },
  'scene/section': {
    title: 'Section',
    text: 'Cuts level, across, along, at a face that you click, or with a box. Up to six at once; each is pushed, pulled, turned round.',
  },
  'scene/measure': {
    title: 'Measure',
    text: 'Distances, heights, angles, areas and volumes. The place that is caught is shown before you click; ends can be dragged.',
  },
  'scene/mark': {
    title: 'Mark',
    text: 'Dimensions, clouds, arrows and words on what you see. They are kept with the viewpoint.',
  },
  'scene/frame': { title: 'Frame', text: 'Draw a frame: all that lies wholly in it is selected.' },
  'scene/closer': { title: 'Closer', text: 'Brings what is selected near.' },
  'scene/hide': { title: 'Hide', text: 'Takes what is selected out of sight.' },
  'scene/ghost': { title: 'Ghost', text: 'Leaves of what is selected only a trace that one can look through.' },
  'scene/isolate': { title: 'Isolate', text: 'Leaves only what is selected.' },
  'scene/show': { title: 'Show all', text: 'Brings back all that is hidden, isolated or a ghost.' },
  'scene/viewpoint': {
    title: 'Save viewpoint',
    text: 'Keeps camera, sections, visibility, selection, colours, marks and versions with a picture. It stands under Viewpoints.',
  },
  'scene/issue': { title: 'Raise issue', text: 'Asks somebody about what you see: the viewpoint goes along with it.' },
  'scene/compass': {
    title: 'Compass',
    text: 'Shows where you look. Click a side to look from there, the middle to look from above.',
  },
  'scene/properties': {
    title: 'Properties',
    text: 'All that the author wrote at the element, with the model and the version that it comes from.',
  },
  'viewpoints/folders': {
    title: 'Folders',
    text: 'A folder holds viewpoints in the order of a meeting. It is there as long as something lies in it.',
  },
  'viewpoints/slides': {
    title: 'One after the other',
    text: 'Opens them in the scene one by one: Page down goes on, Page up goes back.',
  },
  'issues/bcf': {
    title: 'Issues for other programs',
    text: 'Writes the issues of this list, as it is filtered, into one BCF file; brings one in from another program, field by field as you choose, nothing twice; and lists what left and came in.',
  },
  'scene-beside/measure': {
    title: 'Measure on both',
    text: 'What is measured on one side stands on both, at the same two places: so one sees by how much something moved.',
  },
  'issues/report': {
    title: 'A report to keep',
    text: 'The issues of this list, as it is filtered and ordered: a PDF with a table and a page for each with picture and history, or a workbook. It is found under the files that were made.',
  },
  'issues/looks': {
    title: 'Five looks at one list',
    text: 'The same issues as a table, as cards by status, by the days when they are due, where they lie, and in charts. Filters hold for all of them.',
  },
  'issues/filter': {
    title: 'Filter on any field',
    text: 'Choose a field, then its values: each says how many issues have it. What is chosen stands beside it, in the address, and can be kept as a view that rings for what comes into it.',
  },
  'issues/board': {
    title: 'Cards by status',
    text: 'Drag a card to another column, or press Shift and an arrow. Whether it may go there, and with which reason, is a rule of its type.',
  },
  'issues/calendar': {
    title: 'When what is due',
    text: 'Each issue on its due day; what is late stands out, what is closed is struck. Weekends and the holidays of the project are grey.',
  },
  'issues/map': {
    title: 'Where they lie',
    text: 'Sheets and models that issues lie on, those with the most first. A click on a pin names the issue, Open goes to it.',
  },
  'issues/charts': {
    title: 'In figures',
    text: 'Who has to answer, how old it is, week by week, and how long companies take. Each number leads to its list.',
  },
  'issues/mark-picture': {
    title: 'Mark the picture',
    text: 'Draw, point, frame or write on the picture before it is kept. The place itself is kept without marks.',
  },
  'issues/talk': {
    title: 'What was said',
    text: '@ names a person, who is told. Pictures and documents go along. Your own words can be changed or withdrawn; that they were is seen.',
  },
  'issues/ties': {
    title: 'What it is tied to',
    text: 'Other issues that it blocks, follows or doubles, and documents, reviews or clashes that it is about.',
  },
  'issue-settings/types': {
    title: 'Types of issues',
    text: 'Each type says what an issue needs when it is raised, how many working days an answer has, and who may take which step.',
  },
  'upload-desk/answers': {
    title: 'Answers an issue',
    text: 'Numbers of issues that this file answers. With its delivery they count as answered, and whoever verifies them sees both versions side by side.',
  },
  'federations/models': {
    title: 'Models of the federation',
    text: 'Every model of the folder takes part by itself, with the newest version that you see. Hold one at a version, and it stays there until it follows again.',
  },
  'federations/places': {
    title: 'Coordinates',
    text: 'What each model says of the map, how large it is, and whether it lies with the others: another unit, coordinates of the map, far away, turned or mirrored. Whoever may keep viewpoints can put a model to the others; its file stays as it was.',
  },
  'federations/rules': {
    title: 'Rules of clashes',
    text: 'What must not run into what. A rule runs by itself whenever a model is shared; its clashes keep what was decided of them.',
  },
  'clashes/list': {
    title: 'Clashes by cause',
    text: 'What has one cause stands together and is decided together. The chips choose which states are listed; the search finds names, classes, storeys and people.',
  },
  'clashes/tabs': {
    title: 'Ways to look at clashes',
    text: 'In the scene, in a table, counted between disciplines, run by run, and on the plan of a storey.',
  },
  'clashes/decide': {
    title: 'Decisions',
    text: 'Accept with a reason, say who sees to it, or raise an issue that leads there. All of it stays with the clash from run to run.',
  },
  'model-changes/list': {
    title: 'What changed',
    text: 'Elements that came, went, moved, were reshaped or have other values. The arrows go from one to the next.',
  },
  'model-changes/modes': {
    title: 'Two versions',
    text: 'In one picture the later version with what is gone; side by side both, with cameras that go together.',
  },
};
