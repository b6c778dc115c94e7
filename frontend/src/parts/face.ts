import type { Zone } from '../api/client';

/** The face map's drawing: one path a zone, drawn by us on a 320 × 400 sheet, frontal.
 *  Paired zones are drawn once, on the viewer's left (the sitter's right), and mirrored for the other side. */
export const WIDTH = 320;
export const HEIGHT = 400;

export const OUTLINE =
  'M160 46 C112 46 78 82 71 140 C67 178 69 214 77 244 C86 278 112 316 139 330 C152 337 168 337 181 330 ' +
  'C208 316 234 278 243 244 C251 214 253 178 249 140 C242 82 208 46 160 46 Z';
export const NECK =
  'M104 286 C107 322 106 352 92 372 C82 384 62 390 50 400 L270 400 C258 390 238 384 228 372 C214 352 213 322 216 286 Z';
export const HAIR =
  'M160 22 C92 20 54 74 58 148 C59 170 62 182 67 190 L80 190 C78 150 80 116 96 92 C112 76 136 70 160 70 ' +
  'C184 70 208 76 224 92 C240 116 242 150 240 190 L253 190 C258 182 261 170 262 148 C266 74 228 20 160 22 Z';

const PAIRED: Record<string, string> = {
  temple: 'M80 130 C85 112 96 99 111 91 L113 139 C100 142 88 152 78 172 C74 158 75 144 80 130 Z',
  brow_bone: 'M89 157 C103 146 127 145 143 153 L140 163 C125 157 107 158 92 168 Z',
  eyelid: 'M94 173 C104 160 129 159 141 174 C129 165 106 165 94 173 Z',
  under_eye: 'M94 181 C106 191 130 192 142 182 C143 196 132 207 117 206 C104 205 96 195 94 181 Z',
  inner_corner: 'M139 171 C146 168 150 174 148 180 C145 184 139 183 138 179 Z',
  nose_side: 'M149 190 C147 206 139 218 135 229 C137 240 148 242 153 237 L150 214 Z',
  cheek_apple:
    'M93 206 C106 215 124 213 138 206 C140 222 136 237 129 248 C113 254 98 241 91 227 C88 218 89 211 93 206 Z',
  cheekbone: 'M73 176 C84 177 91 186 94 201 C88 207 87 215 89 222 C80 215 73 205 71 194 Z',
  cheek_hollow:
    'M71 199 C79 217 92 232 106 247 C114 253 118 260 116 270 C104 270 89 259 79 247 C74 232 71 216 71 199 Z',
  smile_line: 'M135 237 C128 247 122 258 121 272 L130 274 C130 261 136 250 142 242 Z',
  jaw: 'M77 247 C89 264 104 272 117 273 C123 282 128 292 130 300 C132 313 136 323 146 332 C116 322 86 282 77 247 Z',
  ear: 'M71 168 C58 160 54 178 58 196 C61 212 68 220 75 218 Z',
};

const SINGLE: Record<string, string> = {
  hairline:
    'M73 138 C78 84 112 48 160 48 C208 48 242 84 247 138 L239 130 C231 94 206 72 160 72 C114 72 89 94 81 130 Z',
  forehead_centre:
    'M110 91 C126 76 194 76 210 91 L208 139 C190 136 176 142 160 144 C144 142 130 136 112 139 Z',
  nose_bridge: 'M150 147 L170 147 C168 178 171 196 173 216 L147 216 C149 196 152 178 150 147 Z',
  nose_tip: 'M147 222 C150 214 170 214 173 222 C176 232 170 240 160 241 C150 240 144 232 147 222 Z',
  upper_lip: 'M137 247 C150 241 170 241 183 247 L187 257 C174 252 167 252 160 255 C153 252 146 252 133 257 Z',
  lips: 'M129 265 C141 254 152 254 160 258 C168 254 179 254 191 265 C183 279 170 283 160 283 C150 283 137 279 129 265 Z',
  below_lip: 'M141 285 C153 290 167 290 179 285 L177 296 C166 300 154 300 143 296 Z',
  chin: 'M131 297 C146 303 174 303 189 297 C193 314 184 328 173 333 C164 336 156 336 147 333 C136 328 127 314 131 297 Z',
  under_jaw: 'M100 300 C112 322 132 340 160 342 C188 340 208 322 220 300 L216 330 C200 356 120 356 104 330 Z',
  neck: 'M105 326 C122 358 198 358 215 326 C217 352 226 372 246 383 L270 400 L50 400 L74 383 C94 372 103 352 105 326 Z',
};

/** The features of half a face, mirrored for the other: brow, eye, nostril. */
export const FEATURES = {
  brow: 'M84 151 C98 138 124 136 145 147 C126 143 102 144 86 155 Z',
  eye: 'M96 176 C105 163 130 163 141 177 C130 185 106 185 96 176 Z',
  lashes: 'M93 178 C104 162 131 161 142 178',
  crease: 'M98 168 C108 158 129 157 139 168',
  nostril: 'M148 236 C150 240 155 240 156 237',
  wing: 'M139 229 C136 236 140 241 145 240',
  iris: [119, 174.5] as const,
};
export const NOSE_SHADOWS = [
  'M146 150 C141 168 148 190 141 222 L149 222 C152 196 150 170 154 150 Z',
  'M174 150 C179 168 172 190 179 222 L171 222 C168 196 170 170 166 150 Z',
];
export const MOUTH = 'M131 265 C145 269 152 266 160 268 C168 266 175 269 189 265';

export interface Shape {
  zone: Zone;
  path: string;
  /** Mirrored across the middle: the sitter's left, the viewer's right. */
  mirrored: boolean;
  /** Drawn below the face outline, on neck and ears. */
  behind: boolean;
}

const BEHIND = new Set(['neck', 'under_jaw', 'ear']);

export const SHAPES: Shape[] = [
  ...Object.entries(PAIRED).flatMap(([stem, path]) =>
    (['r', 'l'] as const).map((side) => ({
      zone: `${stem}_${side}` as Zone,
      path,
      mirrored: side === 'l',
      behind: BEHIND.has(stem),
    })),
  ),
  ...Object.entries(SINGLE).map(([zone, path]) => ({
    zone: zone as Zone,
    path,
    mirrored: false,
    behind: BEHIND.has(zone),
  })),
];
