/** The types of the bridge, as its context of JSON describes them. Made by scripts/types.sh: not by hand. */
export type paths = Record<string, never>;
export type webhooks = Record<string, never>;
export interface components {
    schemas: {
        /** @enum {unknown} */
        AlphaMode: "opaque" | "mask" | "blend";
        AmountAnswer: {
            mode: components["schemas"]["AmountMode"];
            amount: number;
            value: number;
        };
        /** @enum {unknown} */
        AmountMode: "set" | "add" | "multiply";
        BoundsAnswer: {
            low: components["schemas"]["Vec3"];
            high: components["schemas"]["Vec3"];
        };
        Camera: {
            projection: components["schemas"]["Projection"];
            fov: number;
            height: number;
            near: null | number;
            far: null | number;
            aspect: null | number;
            pixels: null | number;
            shiftX: number;
            shiftY: number;
            aperture: null | number;
            focus: null | number;
            focusOn: null | string;
        };
        CameraAnswer: {
            world: number[];
            lens: components["schemas"]["LensAnswer"];
        };
        CameraReading: {
            name: string;
            usedBy: string[];
            roll: null | number;
            isLevel: boolean;
            leadName: null | string;
            distance: null | number;
            depth: null | number;
            left: null | number;
            right: null | number;
        };
        CarryAnswer: {
            shots: string;
            edit: unknown;
        };
        CaughtAnswer: {
            kind: components["schemas"]["SnapKind"];
            words: string;
            point: components["schemas"]["Vec3"];
            normal: null | components["schemas"]["Vec3"];
            inReach: number;
        };
        CheatReading: {
            channel: string;
            of: string[];
            words: string;
            here: string;
            there: string;
        };
        Color: string | [
            number,
            number,
            number
        ];
        ColorsAnswer: {
            palette: string[];
            of: number[];
        };
        CommonCamera: {
            count: number;
            projection: null | components["schemas"]["Projection"];
            fov: null | number;
            height: null | number;
            near: null | number;
            far: null | number;
            aspect: null | number;
            focalLength: null | number;
            pictureWidth: null | number;
            pictureHeight: null | number;
            shiftX: null | number;
            shiftY: null | number;
            aperture: null | number;
            focus: null | number;
            focusName: null | string;
        };
        CommonChannels: {
            position: (null | number)[];
            rotation: (null | number)[];
            scale: (null | number)[];
            size: (null | number)[];
            order: null | components["schemas"]["EulerOrder"];
        };
        CommonLight: {
            count: number;
            type: null | components["schemas"]["LightType"];
            color: null | components["schemas"]["Color"];
            shown: null | components["schemas"]["Color"];
            intensity: null | number;
            lumens: null | number;
            range: null | number;
            innerCone: null | number;
            outerCone: null | number;
            temperature: null | number;
            size: null | number;
            panelHeight: null | number;
            shadow: null | boolean;
        };
        Constraint: {
            kind: string;
            id: string;
            enabled: boolean;
            weight: number;
            target?: string;
            point?: components["schemas"]["Vec3"];
            axis?: string;
            upAxis?: string;
            up?: components["schemas"]["Up"];
            hinge?: components["schemas"]["Vec3"];
            zero?: components["schemas"]["Vec3"];
            facing?: string;
            from?: number;
            to?: number;
            axes?: string;
            frame?: string;
            offset?: number[];
            factor?: number;
            of?: string;
            low?: (null | number)[];
            high?: (null | number)[];
            how?: string;
            along?: components["schemas"]["Vec3"];
            align?: string;
        };
        ConstraintPatch: {
            kind: null | string;
            id: null | string;
            enabled: null | boolean;
            weight: null | number;
            target: null | string;
            point: null | components["schemas"]["Vec3"];
            axis: null | string;
            upAxis: null | string;
            up: null | components["schemas"]["Up"];
            hinge: null | components["schemas"]["Vec3"];
            zero: null | components["schemas"]["Vec3"];
            facing: null | string;
            from: null | number;
            to: null | number;
            axes: null | string;
            frame: null | string;
            offset: null | number[];
            factor: null | number;
            of: null | string;
            low: null | (null | number)[];
            high: null | (null | number)[];
            how: null | string;
            along: null | components["schemas"]["Vec3"];
            align: null | string;
            without: null | string[];
        };
        DiffReading: {
            a: string;
            b: string;
            things: components["schemas"]["ThingDifference"][];
            count: number;
            text: string;
        };
        DifferenceLine: {
            channel: string;
            words: string;
            a: string;
            b: string;
        };
        DrawnAnswer: {
            corners: number[];
            words: string;
            hasHeight: boolean;
            edit: null | unknown;
        };
        /** @enum {unknown} */
        DrawnAs: "full" | "wire" | "box" | "controller";
        EntityData: {
            id: string;
            /** @constant */
            kind: "collection";
            name: string;
            parent: null | string;
            rank: number;
            switches: components["schemas"]["Switches"];
            label?: components["schemas"]["Label"];
            rule?: components["schemas"]["Rule"];
        };
        /** @enum {unknown} */
        EulerOrder: "XYZ" | "XZY" | "YXZ" | "YZX" | "ZXY" | "ZYX";
        ForeseenAnswer: {
            ghosts: components["schemas"]["GhostAnswer"][];
            foretold: null | string;
            added: number[][];
        };
        Foretelling: {
            held: components["schemas"]["HeldBy"][];
            jumps: components["schemas"]["Jumping"][];
        };
        FrameAnswer: {
            centre: components["schemas"]["Vec3"];
            axes: number[];
            warning: null | string;
            refused: null | string;
        };
        FramesAnswer: {
            frames: number;
        };
        GhostAnswer: {
            id: string;
            world: number[];
            from: null | components["schemas"]["Vec3"];
            to: components["schemas"]["Vec3"];
        };
        GoneEntity: {
            kind: string;
            id: string;
        };
        HeardAnswer: {
            stale: components["schemas"]["Stale"];
            dropped: components["schemas"]["RefusalAnswer"][];
            ongoing: null | components["schemas"]["OngoingAnswer"];
        };
        HeardStep: {
            revision: number;
            changed: components["schemas"]["EntityData"][];
            removed: string[];
            ticket: null | number;
            entities: null | components["schemas"]["EntityData"][];
            gone: null | components["schemas"]["GoneEntity"][];
            written: null | components["schemas"]["PartChange"][];
        };
        HeldBy: {
            node: string;
            link: null | string;
            reason: string;
            ways: string[];
        };
        HingeArc: {
            axis: components["schemas"]["Vec3"];
            zero: components["schemas"]["Vec3"];
            from: null | number;
            to: null | number;
            now: number;
        };
        Jumping: {
            node: string;
            moved: number;
            turned: number;
            scaled: number;
        };
        KeptAnswer: {
            ticket: number;
            sentence: string;
            edits: null | unknown;
            empty: boolean;
            stale: components["schemas"]["Stale"];
            shot: null | string;
            narrow: null | boolean;
            carry: null | components["schemas"]["CarryAnswer"];
        };
        Label: {
            color: null | string;
            note: null | string;
            closed: boolean;
        };
        LampReading: {
            id: string;
            name: string;
            type: components["schemas"]["LightType"];
            color: components["schemas"]["Color"];
            temperature: null | number;
            intensity: number;
            lumens: null | number;
            range: null | number;
            innerCone: number;
            outerCone: number;
            size: number;
            panelHeight: number;
            shadow: boolean;
            on: boolean;
            seen: boolean;
            world: number[];
            own: string[];
        };
        LeadAnswer: {
            placement: components["schemas"]["Placement"];
            pivotInWorld: components["schemas"]["Vec3"];
            liningUp: number;
        };
        LensAnswer: {
            projection: components["schemas"]["Projection"];
            fov: number;
            height: number;
            aspect: number;
            near: null | number;
            far: null | number;
            shiftX: number;
            shiftY: number;
            opening: number;
            focus: number;
            width: number;
            pictureHeight: number;
        };
        LensGrip: {
            part: components["schemas"]["LensPart"];
            at: components["schemas"]["Vec3"];
            words: string;
            angle: boolean;
        };
        /** @enum {unknown} */
        LensPart: "range" | "innerCone" | "outerCone" | "fov" | "height" | "size" | "panelHeight";
        LensShape: {
            lines: components["schemas"]["Vec3"][][];
            grips: components["schemas"]["LensGrip"][];
        };
        Lies: {
            how: components["schemas"]["LiesHow"];
            metres: number;
            aspect: number;
            true: boolean;
            from: components["schemas"]["LiesFrom"];
        };
        /** @enum {unknown} */
        LiesFrom: "top" | "bottom" | "front" | "back" | "left" | "right";
        /** @enum {unknown} */
        LiesHow: "own" | "box" | "flat";
        Light: {
            type: components["schemas"]["LightType"];
            intensity: number;
            range: null | number;
            innerCone: null | number;
            outerCone: null | number;
            temperature: null | number;
            size: number;
            panelHeight: null | number;
            shadow: null | boolean;
            color: components["schemas"]["Color"];
        };
        /** @enum {unknown} */
        LightType: "point" | "directional" | "spot" | "panel";
        LimitsAnswer: {
            copies: number;
            spread: number;
            linesUpBelow: number;
            name: number;
            note: number;
            units: {
                [key: string]: number;
            };
        };
        LinkReading: {
            id: string;
            kind: string;
            title: string;
            moved: number;
            turned: number;
            scaled: number;
            warning: null | string;
        };
        LinkThread: {
            node: string;
            link: string;
            kind: string;
            by: null | string;
            at: components["schemas"]["Vec3"];
            target: null | components["schemas"]["Vec3"];
            axis: null | string;
            points: null | components["schemas"]["Vec3"];
            hinge: null | components["schemas"]["HingeArc"];
            up: null | components["schemas"]["Vec3"];
            pulls: boolean;
            warns: boolean;
        };
        LoadedAnswer: {
            revision: number;
            geometries: string[];
        };
        Look: {
            shape: null | components["schemas"]["Shape"];
            geometry: null | string;
            normals: null | components["schemas"]["Normals"];
            materials: string[];
            lies: null | string;
        };
        Looks: {
            distinct: components["schemas"]["Look"][];
            of: number[];
        };
        MadeOf: {
            count: number;
            slots: string[];
            materials: string[];
            others: number;
            own: boolean;
        };
        MaterialReading: {
            id: string;
            name: string;
            surface: components["schemas"]["Surface"];
            users: number;
        };
        MembershipAnswer: {
            id: string;
            byRule: boolean;
        };
        NodeAnswer: {
            node: components["schemas"]["NodeData"];
            world: number[];
            pivotInWorld: components["schemas"]["Vec3"];
            bounds: null | components["schemas"]["BoundsAnswer"];
            liningUp: number;
            shearedBy: null | string;
            anchor: null | components["schemas"]["Vec3"];
        };
        NodeData: {
            id: string;
            name: string;
            kind: components["schemas"]["NodeKind"];
            parent: null | string;
            rank: number;
            placement: components["schemas"]["Placement"];
            shape?: components["schemas"]["Shape"];
            geometry?: string;
            normals?: components["schemas"]["Normals"];
            material?: string;
            materials?: string[];
            camera?: components["schemas"]["Camera"];
            light?: components["schemas"]["Light"];
            switches: components["schemas"]["Switches"];
            collections?: string[];
            shares?: string;
            label?: components["schemas"]["Label"];
            constraints?: components["schemas"]["Constraint"][];
        };
        /** @enum {unknown} */
        NodeKind: "shape" | "mesh" | "group" | "light" | "camera" | "mark";
        Normals: {
            how: components["schemas"]["NormalsHow"];
            angle: number;
        };
        /** @enum {unknown} */
        NormalsHow: "facets" | "smooth";
        OngoingAnswer: {
            goes: boolean;
            said: null | string;
            tried: null | components["schemas"]["TrialAnswer"];
        };
        PartChange: {
            id: string;
            of?: string;
            parts: string[];
            was?: {
                [key: string]: unknown;
            };
            is?: {
                [key: string]: unknown;
            };
        };
        Placement: {
            order: components["schemas"]["EulerOrder"];
            takes: components["schemas"]["Takes"];
            position: components["schemas"]["Vec3"];
            rotation: components["schemas"]["Vec3"];
            scale: components["schemas"]["Vec3"];
            shear: components["schemas"]["Vec3"];
            pivot: components["schemas"]["Vec3"];
            pivotTurn: components["schemas"]["Vec3"];
        };
        /** @enum {unknown} */
        Projection: "perspective" | "parallel";
        Reading: {
            amount: string;
            from: string;
            to: string;
            warning: null | string;
        };
        Reason: {
            text: string;
            final: boolean;
            link: string;
            switch: string;
        };
        RefusalAnswer: {
            refusal: string;
            detail: string;
        };
        Rule: {
            name: null | string;
            kind: null | components["schemas"]["NodeKind"];
            material: null | string;
            under: null | string;
            materials: null | string[];
        };
        SeenAnswer: {
            working: boolean;
            final: boolean;
            reasons: components["schemas"]["Reason"][];
            collections: components["schemas"]["MembershipAnswer"][];
        };
        SeenColumn: {
            shot: string;
            number: string;
            title: string;
        };
        SeenInReading: {
            shot: string;
            title: string;
            state: string;
            seen: boolean;
            why: null | string;
        };
        SeenRow: {
            id: string;
            name: string;
            isCollection: boolean;
            depth: number;
            final: boolean;
            cells: string;
        };
        SeenTable: {
            columns: components["schemas"]["SeenColumn"][];
            rows: components["schemas"]["SeenRow"][];
        };
        ShadowAnswer: {
            id: string;
            world: number[];
            from: components["schemas"]["Vec3"];
            to: components["schemas"]["Vec3"];
        };
        Shape: {
            type: string;
            size?: number[];
            radius?: number;
            topRadius?: number;
            height?: number;
            tube?: number;
            inner?: number;
            segments?: number;
            rings?: number;
            sides?: number;
            divisions?: number;
            caps?: boolean;
        };
        ShapePatch: {
            type: null | string;
            size: null | number[];
            radius: null | number;
            topRadius: null | number;
            height: null | number;
            tube: null | number;
            inner: null | number;
            segments: null | number;
            rings: null | number;
            sides: null | number;
            divisions: null | number;
            caps: null | boolean;
        };
        ShotReading: {
            id: string;
            number: string;
            name: string;
            title: string;
            camera: null | string;
            cameraName: null | string;
            cameraNote: null | string;
            frames: number;
            length: string;
            first: number;
            code: string;
            note: null | string;
            colour: null | string;
            cheats: number;
            seen: number;
            aspect: number;
        };
        ShotsAnswer: {
            shots: components["schemas"]["ShotReading"][];
            versions: number[];
            fps: number;
            firstFrame: number;
            total: string;
        };
        /** @enum {unknown} */
        SnapKind: "vertex" | "pivot" | "corner" | "edgeMiddle" | "edge" | "grid" | "face";
        Stale: {
            worlds: boolean;
            outline: boolean;
            rows: string[];
            looks: string[];
            shots: boolean;
            materials: boolean;
        };
        StrayPivot: {
            node: string;
            away: number;
            far: boolean;
        };
        Surface: {
            roughness: number;
            metalness: number;
            opacity: number;
            emissiveStrength: number;
            alphaMode: components["schemas"]["AlphaMode"];
            alphaCutoff: number;
            doubleSided: boolean;
            unlit: boolean;
            lies: null | components["schemas"]["Lies"];
            color: components["schemas"]["Color"];
            emissive: components["schemas"]["Color"];
            textures: components["schemas"]["TextureUse"][];
        };
        SurfaceAnswer: {
            part: components["schemas"]["SurfacePart"];
            upright: components["schemas"]["Vec3"];
            point: components["schemas"]["Vec3"];
        };
        /** @enum {unknown} */
        SurfacePart: "face" | "edge" | "middle" | "vertex";
        SurroundingsAnswer: {
            style: components["schemas"]["SurroundingsKind"];
            color: string;
            ground: string;
            picture: null | string;
            strength: number;
            turn: number;
            behind: boolean;
            exposure: number;
            own: string[];
        };
        /** @enum {unknown} */
        SurroundingsKind: "even" | "sky" | "picture";
        Switches: {
            working: boolean;
            final: boolean;
            locked: boolean;
            drawn: components["schemas"]["DrawnAs"];
        };
        Takes: {
            position: boolean;
            rotation: boolean;
            scale: boolean;
        };
        TextureUse: {
            channel: string;
            image: string;
            texCoord: number;
            wrapS: number;
            wrapT: number;
            magFilter: null | number;
            minFilter: null | number;
            strength: null | number;
            repeat: null | components["schemas"]["Uv"];
            offset: null | components["schemas"]["Uv"];
            turn: number;
        };
        ThingDifference: {
            id: string;
            name: string;
            lines: components["schemas"]["DifferenceLine"][];
        };
        TrialAnswer: {
            reading: components["schemas"]["Reading"];
            amount: components["schemas"]["Vec3"];
            refused: null | components["schemas"]["RefusalAnswer"];
            lead: null | components["schemas"]["LeadAnswer"];
            caught: null | components["schemas"]["CaughtAnswer"];
        };
        Up: "least" | {
            world: string;
        } | {
            parent: string;
        } | {
            toward: string;
        };
        Uv: [
            number,
            number
        ];
        Vec3: [
            number,
            number,
            number
        ];
    };
    responses: never;
    parameters: never;
    requestBodies: never;
    headers: never;
    pathItems: never;
}
export type AlphaMode = components['schemas']['AlphaMode'];
export type AmountAnswer = components['schemas']['AmountAnswer'];
export type AmountMode = components['schemas']['AmountMode'];
export type BoundsAnswer = components['schemas']['BoundsAnswer'];
export type Camera = components['schemas']['Camera'];
export type CameraAnswer = components['schemas']['CameraAnswer'];
export type CameraReading = components['schemas']['CameraReading'];
export type CarryAnswer = components['schemas']['CarryAnswer'];
export type CaughtAnswer = components['schemas']['CaughtAnswer'];
export type CheatReading = components['schemas']['CheatReading'];
export type Color = components['schemas']['Color'];
export type ColorsAnswer = components['schemas']['ColorsAnswer'];
export type CommonCamera = components['schemas']['CommonCamera'];
export type CommonChannels = components['schemas']['CommonChannels'];
export type CommonLight = components['schemas']['CommonLight'];
export type Constraint = components['schemas']['Constraint'];
export type ConstraintPatch = components['schemas']['ConstraintPatch'];
export type DiffReading = components['schemas']['DiffReading'];
export type DifferenceLine = components['schemas']['DifferenceLine'];
export type DrawnAnswer = components['schemas']['DrawnAnswer'];
export type DrawnAs = components['schemas']['DrawnAs'];
export type EntityData = components['schemas']['EntityData'];
export type EulerOrder = components['schemas']['EulerOrder'];
export type ForeseenAnswer = components['schemas']['ForeseenAnswer'];
export type Foretelling = components['schemas']['Foretelling'];
export type FrameAnswer = components['schemas']['FrameAnswer'];
export type FramesAnswer = components['schemas']['FramesAnswer'];
export type GhostAnswer = components['schemas']['GhostAnswer'];
export type GoneEntity = components['schemas']['GoneEntity'];
export type HeardAnswer = components['schemas']['HeardAnswer'];
export type HeardStep = components['schemas']['HeardStep'];
export type HeldBy = components['schemas']['HeldBy'];
export type HingeArc = components['schemas']['HingeArc'];
export type Jumping = components['schemas']['Jumping'];
export type KeptAnswer = components['schemas']['KeptAnswer'];
export type Label = components['schemas']['Label'];
export type LampReading = components['schemas']['LampReading'];
export type LeadAnswer = components['schemas']['LeadAnswer'];
export type LensAnswer = components['schemas']['LensAnswer'];
export type LensGrip = components['schemas']['LensGrip'];
export type LensPart = components['schemas']['LensPart'];
export type LensShape = components['schemas']['LensShape'];
export type Lies = components['schemas']['Lies'];
export type LiesFrom = components['schemas']['LiesFrom'];
export type LiesHow = components['schemas']['LiesHow'];
export type Light = components['schemas']['Light'];
export type LightType = components['schemas']['LightType'];
export type LimitsAnswer = components['schemas']['LimitsAnswer'];
export type LinkReading = components['schemas']['LinkReading'];
export type LinkThread = components['schemas']['LinkThread'];
export type LoadedAnswer = components['schemas']['LoadedAnswer'];
export type Look = components['schemas']['Look'];
export type Looks = components['schemas']['Looks'];
export type MadeOf = components['schemas']['MadeOf'];
export type MaterialReading = components['schemas']['MaterialReading'];
export type MembershipAnswer = components['schemas']['MembershipAnswer'];
export type NodeAnswer = components['schemas']['NodeAnswer'];
export type NodeData = components['schemas']['NodeData'];
export type NodeKind = components['schemas']['NodeKind'];
export type Normals = components['schemas']['Normals'];
export type NormalsHow = components['schemas']['NormalsHow'];
export type OngoingAnswer = components['schemas']['OngoingAnswer'];
export type PartChange = components['schemas']['PartChange'];
export type Placement = components['schemas']['Placement'];
export type Projection = components['schemas']['Projection'];
export type Reading = components['schemas']['Reading'];
export type Reason = components['schemas']['Reason'];
export type RefusalAnswer = components['schemas']['RefusalAnswer'];
export type Rule = components['schemas']['Rule'];
export type SeenAnswer = components['schemas']['SeenAnswer'];
export type SeenColumn = components['schemas']['SeenColumn'];
export type SeenInReading = components['schemas']['SeenInReading'];
export type SeenRow = components['schemas']['SeenRow'];
export type SeenTable = components['schemas']['SeenTable'];
export type ShadowAnswer = components['schemas']['ShadowAnswer'];
export type Shape = components['schemas']['Shape'];
export type ShapePatch = components['schemas']['ShapePatch'];
export type ShotReading = components['schemas']['ShotReading'];
export type ShotsAnswer = components['schemas']['ShotsAnswer'];
export type SnapKind = components['schemas']['SnapKind'];
export type Stale = components['schemas']['Stale'];
export type StrayPivot = components['schemas']['StrayPivot'];
export type Surface = components['schemas']['Surface'];
export type SurfaceAnswer = components['schemas']['SurfaceAnswer'];
export type SurfacePart = components['schemas']['SurfacePart'];
export type SurroundingsAnswer = components['schemas']['SurroundingsAnswer'];
export type SurroundingsKind = components['schemas']['SurroundingsKind'];
export type Switches = components['schemas']['Switches'];
export type Takes = components['schemas']['Takes'];
export type TextureUse = components['schemas']['TextureUse'];
export type ThingDifference = components['schemas']['ThingDifference'];
export type TrialAnswer = components['schemas']['TrialAnswer'];
export type Up = components['schemas']['Up'];
export type Uv = components['schemas']['Uv'];
export type Vec3 = components['schemas']['Vec3'];
export type $defs = Record<string, never>;
export type operations = Record<string, never>;

export const sightBits = {
  "none": 0,
  "working": 1,
  "final": 2,
  "locked": 4,
  "drawn": 24,
  "leftOut": 32,
  "lockedBranch": 64,
  "controller": 128,
  "notInShot": 256
} as const;

export const rowBits = {
  "none": 0,
  "working": 1,
  "final": 2,
  "locked": 4,
  "drawnAsWire": 8,
  "drawnAsBox": 16,
  "closed": 32,
  "smart": 64,
  "noted": 128,
  "ownInShot": 256
} as const;

export const rowColumn = {
  "id": 0,
  "slot": 1,
  "parent": 2,
  "kind": 3,
  "bits": 4,
  "geometry": 5,
  "shares": 6,
  "color": 7,
  "collections": 8,
  "name": 9
} as const;

export const pointerNumber = {
  "ray": 0,
  "fine": 6,
  "step": 7,
  "onGrid": 8,
  "snapKinds": 9,
  "snapRadius": 10,
  "snapFocal": 11,
  "snapGrid": 12,
  "snapSource": 13,
  "snapTurn": 14,
  "snapNext": 15,
  "snapFrom": 16,
  "count": 20
} as const;

export const triedNumber = {
  "amount": 0,
  "lead": 3,
  "position": 4,
  "rotation": 7,
  "scale": 10,
  "shear": 13,
  "pivot": 16,
  "pivotTurn": 19,
  "pivotInWorld": 22,
  "liningUp": 25,
  "caught": 26,
  "caughtKind": 27,
  "caughtPoint": 28,
  "hasNormal": 31,
  "caughtNormal": 32,
  "inReach": 35,
  "count": 36
} as const;

export const triedLine = {
  "amount": 0,
  "from": 1,
  "to": 2,
  "warning": 3,
  "refusalWord": 4,
  "refusalDetail": 5,
  "caught": 6
} as const;

export const snapKind = {
  "vertex": 0,
  "pivot": 1,
  "corner": 2,
  "edgeMiddle": 3,
  "edge": 4,
  "grid": 5,
  "face": 6
} as const;

export const snapSource = {
  "pivot": 0,
  "corner": 1,
  "picked": 2
} as const;
