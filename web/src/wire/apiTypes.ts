/** The types of the API, as the server describes it. Made by scripts/types.sh: not by hand. */
export interface paths {
    "/api/scenes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path?: never;
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["SceneSummary"][];
                    };
                };
            };
        };
        put?: never;
        post: {
            parameters: {
                query?: never;
                header?: never;
                path?: never;
                cookie?: never;
            };
            requestBody: {
                content: {
                    "application/json": components["schemas"]["NewSceneRequest"];
                };
            };
            responses: {
                /** @description Created */
                201: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["SceneAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["SceneAnswer"];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        options?: never;
        head?: never;
        patch: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "application/json": components["schemas"]["DescribeRequest"];
                };
            };
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["SceneAnswer"];
                    };
                };
            };
        };
        trace?: never;
    };
    "/api/scenes/{id}/document": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/evaluated": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: {
                    shot?: string;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["EvaluatedAnswer"];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/derived": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: {
                    shot?: string;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["DerivedAnswer"];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/geometry/{hash}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    hash: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/geometry/{hash}/triangles": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    hash: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/bin": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path?: never;
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["RemovedScene"][];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete: {
            parameters: {
                query?: never;
                header?: never;
                path?: never;
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/bin/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["SceneAnswer"];
                    };
                };
            };
        };
        delete: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/demo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: {
            parameters: {
                query?: never;
                header?: never;
                path?: never;
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["SceneAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/edits": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "application/json": components["schemas"]["EditsRequest"];
                };
            };
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["StepAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/undo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "application/json": components["schemas"]["RestoreRequest"];
                };
            };
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["StepAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/redo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "application/json": components["schemas"]["RestoreRequest"];
                };
            };
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["StepAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/steps": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: {
                    before?: number;
                    most?: number;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["StepEntry"][];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/log": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query: {
                    after: number;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["LogAnswer"];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/steps/{number}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    number: number;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["PartChange"][];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    number: number;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "application/json": components["schemas"]["NameStepRequest"];
                };
            };
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        trace?: never;
    };
    "/api/scenes/import": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: {
            parameters: {
                query?: {
                    name?: string;
                };
                header?: never;
                path?: never;
                cookie?: never;
            };
            requestBody: {
                content: {
                    "model/gltf-binary": string;
                    "model/gltf+json": string;
                    "application/zip": string;
                };
            };
            responses: {
                /** @description Created */
                201: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["SceneAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/import": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: {
            parameters: {
                query?: {
                    under?: string;
                    name?: string;
                    at?: string;
                    mark?: string;
                    shot?: string;
                    scope?: components["schemas"]["EditScope"];
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "model/gltf-binary": string;
                    "model/gltf+json": string;
                    "application/zip": string;
                };
            };
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["StepAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/export": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: {
                    format?: string;
                    shot?: string;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/me/settings": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path?: never;
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put: {
            parameters: {
                query?: never;
                header?: never;
                path?: never;
                cookie?: never;
            };
            requestBody: {
                content: {
                    "application/json": components["schemas"]["JsonElement"];
                };
            };
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/me/work/{work}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    work: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["StopAnswer"];
                    };
                };
            };
        };
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/selections": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["NamedSelection"][];
                    };
                };
            };
        };
        put: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "application/json": components["schemas"]["SelectionRequest"];
                };
            };
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        post?: never;
        delete: {
            parameters: {
                query: {
                    name: string;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/picture": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put: {
            parameters: {
                query: {
                    revision: number;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "image/webp": string;
                    "image/png": string;
                };
            };
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/shots/pictures": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["ShotPictureEntry"][];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/shots/{shot}/picture": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    shot: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put: {
            parameters: {
                query: {
                    revision: number;
                };
                header?: never;
                path: {
                    id: string;
                    shot: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "image/webp": string;
                    "image/png": string;
                };
            };
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/pictures": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["KeptPicture"][];
                    };
                };
            };
        };
        put?: never;
        post: {
            parameters: {
                query?: {
                    name?: string;
                    side?: number;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "image/png": string;
                    "image/jpeg": string;
                    "image/webp": string;
                };
            };
            responses: {
                /** @description Created */
                201: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["PictureAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/pictures/{hash}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    hash: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put?: never;
        post?: never;
        delete: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    hash: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/stills": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["Still"][];
                    };
                };
            };
        };
        put?: never;
        post: {
            parameters: {
                query: {
                    revision: number;
                    name?: string;
                    shot?: string;
                    passes?: number;
                    seconds?: number;
                    madeOf?: string;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "image/png": string;
                };
            };
            responses: {
                /** @description Created */
                201: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["StillAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/stills/{still}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    still: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put?: never;
        post?: never;
        delete: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    still: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/stills/{still}/{part}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    still: string;
                    part: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        put: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                    still: string;
                    part: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "image/png": string;
                    "image/webp": string;
                };
            };
            responses: {
                /** @description No Content */
                204: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content?: never;
                };
            };
        };
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/shots": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: {
                    format?: string;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["JsonShots"];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/shots/import": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: {
            parameters: {
                query?: {
                    only?: string;
                    off?: string;
                };
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody: {
                content: {
                    "text/csv": string;
                    "application/json": string;
                };
            };
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["ShotListAnswer"];
                    };
                };
            };
        };
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/shots/{shot}/diff": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: {
                    with?: string;
                };
                header?: never;
                path: {
                    id: string;
                    shot: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["ShotDiff"];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/scenes/{id}/unused": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["UnusedBlobs"];
                    };
                };
            };
        };
        put?: never;
        post?: never;
        delete: {
            parameters: {
                query?: never;
                header?: never;
                path: {
                    id: string;
                };
                cookie?: never;
            };
            requestBody?: never;
            responses: {
                /** @description OK */
                200: {
                    headers: {
                        [name: string]: unknown;
                    };
                    content: {
                        "application/json": components["schemas"]["UnusedBlobs"];
                    };
                };
            };
        };
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
}
export type webhooks = Record<string, never>;
export interface components {
    schemas: {
        About: components["schemas"]["AboutAboutOwn"] | components["schemas"]["AboutAboutLead"] | components["schemas"]["AboutAboutBounds"] | components["schemas"]["AboutAboutMean"] | components["schemas"]["AboutAboutZero"] | components["schemas"]["AboutAboutPoint"] | components["schemas"]["AboutAboutMark"];
        AboutAboutBounds: {
            /** @enum {string} */
            kind: "bounds";
        };
        AboutAboutLead: {
            /** @enum {string} */
            kind: "lead";
        };
        AboutAboutMark: {
            /** @enum {string} */
            kind: "mark";
            mark: string;
        };
        AboutAboutMean: {
            /** @enum {string} */
            kind: "mean";
        };
        AboutAboutOwn: {
            /** @enum {string} */
            kind: "own";
        };
        AboutAboutPoint: {
            /** @enum {string} */
            kind: "point";
            at: components["schemas"]["Vec3"];
        };
        AboutAboutZero: {
            /** @enum {string} */
            kind: "zero";
        };
        Across: {
            /** Format: int32 */
            count: number;
            by: components["schemas"]["Repeat"][];
        };
        /** @enum {unknown} */
        Act: "step" | "undo" | "redo" | "described";
        /** @enum {unknown} */
        AddWhere: "inside" | "beside" | "around";
        /** @description A matrix of four columns, one after the other; the last row is 0, 0, 0, 1. */
        Affine: number[];
        AlignAxes: {
            x?: null | components["schemas"]["AlignAxis"];
            y?: null | components["schemas"]["AlignAxis"];
            z?: null | components["schemas"]["AlignAxis"];
        };
        AlignAxis: {
            from: components["schemas"]["AlignPlace"];
            to: components["schemas"]["AlignPlace"];
        };
        /** @enum {unknown} */
        AlignPlace: "min" | "middle" | "max" | "pivot";
        /** @enum {unknown} */
        AlphaMode: "opaque" | "mask" | "blend";
        /**
         * @default set
         * @enum {unknown}
         */
        AmountMode: "set" | "add" | "multiply";
        /**
         * @default own
         * @enum {unknown}
         */
        AnchorAxes: "own" | "world";
        BringTo: {
            node?: null | string;
            mark?: null | string;
            point?: null | components["schemas"]["Vec3"];
        };
        Camera: {
            projection?: components["schemas"]["Projection"];
            /** @default 38 */
            fov?: number;
            /** @default 4 */
            height?: number;
            near?: null | number;
            far?: null | number;
            aspect?: null | number;
            /** Format: int32 */
            pixels?: null | number;
            /** @default 0 */
            shiftX?: number;
            /** @default 0 */
            shiftY?: number;
            aperture?: null | number;
            focus?: null | number;
            focusOn?: null | string;
        };
        CameraDifference: {
            a: null | string;
            b: null | string;
        };
        Carried: {
            shot: string;
            of: string;
            channel: string;
            by: number[];
        };
        /** @enum {unknown} */
        ChannelName: "position" | "rotation" | "scale" | "size";
        CheatDifference: {
            node: string;
            channel: string;
            a: components["schemas"]["CheatValue"];
            b: components["schemas"]["CheatValue"];
        };
        CheatValue: unknown;
        /**
         * @default along
         * @enum {unknown}
         */
        ChildrenMode: "along" | "stay";
        /** @description A colour: six figures behind a # in sRGB where these say it exactly, else its linear shares of red, green and blue, from 0 to 1. */
        Color: string | [
            number,
            number,
            number
        ];
        ConstraintPatch: {
            kind?: null | string;
            id?: null | string;
            enabled?: null | boolean;
            /** Format: double */
            weight?: null | number;
            target?: null | string;
            point?: null | components["schemas"]["Vec3"];
            axis?: null | string;
            upAxis?: null | string;
            up?: null | components["schemas"]["Up"];
            hinge?: null | components["schemas"]["Vec3"];
            zero?: null | components["schemas"]["Vec3"];
            facing?: null | string;
            /** Format: double */
            from?: null | number;
            /** Format: double */
            to?: null | number;
            axes?: null | string;
            frame?: null | string;
            offset?: null | number[];
            /** Format: double */
            factor?: null | number;
            of?: null | string;
            low?: null | (null | number)[];
            high?: null | (null | number)[];
            how?: null | string;
            along?: null | components["schemas"]["Vec3"];
            align?: null | string;
            without?: null | string[];
        };
        CopiedNodes: {
            /** Format: int32 */
            calmPivot: number;
            nodes: components["schemas"]["NodeData"][];
            worlds: unknown[];
            geometries?: null | {
                [key: string]: string;
            };
            stands?: null | Record<string, never>;
            materials?: null | components["schemas"]["EntityData"][];
        };
        DerivedAnswer: {
            /** Format: int64 */
            revision: number;
            digest: string;
        };
        DescribeRequest: {
            name?: null | string;
            unit?: null | string;
            /** Format: int32 */
            keepSteps?: null | number;
        };
        Described: {
            nameWas: string;
            unitWas: string;
            name: string;
            unit: string;
        };
        /**
         * @default full
         * @enum {unknown}
         */
        DrawnAs: "full" | "wire" | "box" | "controller";
        /**
         * @default lowest
         * @enum {unknown}
         */
        DropBy: "lowest" | "pivot";
        Edit: components["schemas"]["EditCreate"] | components["schemas"]["EditAdd"] | components["schemas"]["EditRemove"] | components["schemas"]["EditRename"] | components["schemas"]["EditSetShape"] | components["schemas"]["EditPlace"] | components["schemas"]["EditMove"] | components["schemas"]["EditRotate"] | components["schemas"]["EditScale"] | components["schemas"]["EditMovePivot"] | components["schemas"]["EditPutUnder"] | components["schemas"]["EditSee"] | components["schemas"]["EditLockNodes"] | components["schemas"]["EditSetNormals"] | components["schemas"]["EditSteer"] | components["schemas"]["EditSetOrder"] | components["schemas"]["EditSetTakes"] | components["schemas"]["EditDropShear"] | components["schemas"]["EditMirror"] | components["schemas"]["EditAlign"] | components["schemas"]["EditSpread"] | components["schemas"]["EditDrop"] | components["schemas"]["EditSetChannel"] | components["schemas"]["EditBring"] | components["schemas"]["EditCreateMark"] | components["schemas"]["EditFollowNode"] | components["schemas"]["EditGroup"] | components["schemas"]["EditUngroup"] | components["schemas"]["EditDuplicate"] | components["schemas"]["EditUnshare"] | components["schemas"]["EditUnlink"] | components["schemas"]["EditGather"] | components["schemas"]["EditCollect"] | components["schemas"]["EditSetRule"] | components["schemas"]["EditSetLabel"] | components["schemas"]["EditDraw"] | components["schemas"]["EditRenameMany"] | components["schemas"]["EditPaste"] | components["schemas"]["EditSeparate"] | components["schemas"]["EditJoin"] | components["schemas"]["EditSetLight"] | components["schemas"]["EditSetCamera"] | components["schemas"]["EditConstrain"] | components["schemas"]["EditSetConstraint"] | components["schemas"]["EditUnconstrain"] | components["schemas"]["EditBake"] | components["schemas"]["EditTurnTo"] | components["schemas"]["EditPanAndTilt"] | components["schemas"]["EditGiveLinks"] | components["schemas"]["EditDrive"] | components["schemas"]["EditFaceWith"] | components["schemas"]["EditMakeShot"] | components["schemas"]["EditSetShot"] | components["schemas"]["EditCopyShot"] | components["schemas"]["EditRemoveShot"] | components["schemas"]["EditRenumber"] | components["schemas"]["EditSetTiming"] | components["schemas"]["EditSetSurroundings"] | components["schemas"]["EditPutHighlight"] | components["schemas"]["EditSeeIn"] | components["schemas"]["EditTakeBack"] | components["schemas"]["EditEverywhere"] | components["schemas"]["EditCarryAlong"] | components["schemas"]["EditTakeFrom"] | components["schemas"]["EditOwnCamera"] | components["schemas"]["EditListShots"] | components["schemas"]["EditKeepSize"] | components["schemas"]["EditLevel"] | components["schemas"]["EditMakeMaterial"] | components["schemas"]["EditSetMaterial"] | components["schemas"]["EditRemoveMaterial"] | components["schemas"]["EditAssign"] | components["schemas"]["EditTakeMaterial"] | components["schemas"]["EditMergeMaterials"] | components["schemas"]["EditClearMaterials"];
        EditAdd: {
            /** @enum {string} */
            do: "add";
            node: components["schemas"]["NewNode"];
            nodes: string[];
            where: components["schemas"]["AddWhere"];
            ids?: null | string[];
            at?: null | components["schemas"]["BringTo"];
            view?: null | components["schemas"]["Affine"];
        };
        EditAlign: {
            /** @enum {string} */
            do: "align";
            nodes: string[];
            to: string;
            axes: components["schemas"]["AlignAxes"];
            space: components["schemas"]["Space"];
            as?: components["schemas"]["MoveAs"];
            /** @default false */
            rotation?: boolean;
            /** @default false */
            scale?: boolean;
        };
        EditAssign: {
            /** @enum {string} */
            do: "assign";
            nodes: string[];
            /** @description A material: its id, or what it is like; then the one that is so, which is made where there is none. */
            material?: string | {
                name?: string;
                color?: components["schemas"]["Color"];
                opacity?: number;
                alphaMode?: components["schemas"]["AlphaMode"];
                alphaCutoff?: number;
                roughness?: number;
                metalness?: number;
                emissive?: components["schemas"]["Color"];
                emissiveStrength?: number;
                doubleSided?: boolean;
                unlit?: boolean;
                textures?: components["schemas"]["TextureUse"][];
                lies?: components["schemas"]["Lies"];
            };
            /** Format: int32 */
            slot?: null | number;
        };
        EditBake: {
            /** @enum {string} */
            do: "bake";
            nodes: string[];
            upTo?: null | string;
            /** @default false */
            off?: boolean;
        };
        EditBring: {
            /** @enum {string} */
            do: "bring";
            nodes: string[];
            to: components["schemas"]["BringTo"];
            /** @default false */
            rotation?: boolean;
            /** @default true */
            position?: boolean;
        };
        EditCarryAlong: {
            /** @enum {string} */
            do: "carryAlong";
            of: components["schemas"]["Carried"][];
            isOfShots?: boolean;
        };
        EditClearMaterials: {
            /** @enum {string} */
            do: "clearMaterials";
            isOfShots?: boolean;
        };
        EditCollect: {
            /** @enum {string} */
            do: "collect";
            nodes: string[];
            collection: string;
            /** @default true */
            member?: boolean;
        };
        EditConstrain: {
            /** @enum {string} */
            do: "constrain";
            nodes: string[];
            constraint: components["schemas"]["ConstraintPatch"];
            ids?: null | string[];
            /** Format: int32 */
            index?: null | number;
        };
        EditCopyShot: {
            /** @enum {string} */
            do: "copyShot";
            shot: string;
            id?: null | string;
            name?: null | string;
            /** Format: int32 */
            splitAt?: null | number;
            isOfShots?: boolean;
        };
        EditCreate: {
            /** @enum {string} */
            do: "create";
            node: components["schemas"]["NewNode"];
            under?: null | string;
            /** Format: int32 */
            index?: null | number;
            at?: null | components["schemas"]["BringTo"];
        };
        EditCreateMark: {
            /** @enum {string} */
            do: "mark";
            name: string;
            at: components["schemas"]["MarkPlace"];
            id?: null | string;
            /** @default false */
            follow?: boolean;
        };
        EditDraw: {
            /** @enum {string} */
            do: "draw";
            nodes: string[];
            as: components["schemas"]["DrawnAs"];
        };
        EditDrive: {
            /** @enum {string} */
            do: "drive";
            nodes: string[];
            id?: null | string;
            away?: null | number;
        };
        EditDrop: {
            /** @enum {string} */
            do: "drop";
            nodes: string[];
            along?: null | components["schemas"]["Vec3"];
            by?: components["schemas"]["DropBy"];
            as?: components["schemas"]["MoveAs"];
        };
        EditDropShear: {
            /** @enum {string} */
            do: "dropShear";
            nodes: string[];
        };
        EditDuplicate: {
            /** @enum {string} */
            do: "duplicate";
            nodes: string[];
            /**
             * Format: int32
             * @default 1
             */
            count?: number;
            by?: null | components["schemas"]["Repeat"][];
            across?: null | components["schemas"]["Across"];
            /** @default false */
            sharing?: boolean;
            ids?: null | string[][];
            linked?: boolean;
        };
        EditEverywhere: {
            /** @enum {string} */
            do: "everywhere";
            shot: string;
            nodes?: null | string[];
            channels?: null | string[];
            others?: components["schemas"]["OtherShots"];
            isOfShots?: boolean;
        };
        EditFaceWith: {
            /** @enum {string} */
            do: "faceWith";
            node: string;
            axis: string;
            along: components["schemas"]["Vec3"];
        };
        EditFollowNode: {
            /** @enum {string} */
            do: "follow";
            mark: string;
            node?: null | string;
        };
        EditGather: {
            /** @enum {string} */
            do: "collection";
            name: string;
            id?: null | string;
            under?: null | string;
            color?: null | string;
            rule?: null | components["schemas"]["Rule"];
            nodes?: null | string[];
        };
        EditGiveLinks: {
            /** @enum {string} */
            do: "giveLinks";
            from: string;
            to: string[];
        };
        EditGroup: {
            /** @enum {string} */
            do: "group";
            nodes: string[];
            name?: null | string;
            at?: components["schemas"]["GroupAt"];
            id?: null | string;
        };
        EditJoin: {
            /** @enum {string} */
            do: "join";
            nodes: string[];
            others?: components["schemas"]["OtherShots"];
        };
        EditKeepSize: {
            /** @enum {string} */
            do: "keepSize";
            node: string;
            of: string;
            fov?: null | number;
            depth?: null | number;
            mode?: components["schemas"]["AmountMode"];
        };
        EditLevel: {
            /** @enum {string} */
            do: "level";
            nodes: string[];
        };
        EditListShots: {
            /** @enum {string} */
            do: "shotList";
            shots: components["schemas"]["NewShot"][];
            /** Format: int32 */
            firstFrame?: null | number;
            isOfShots?: boolean;
        };
        EditLockNodes: {
            /** @enum {string} */
            do: "lock";
            nodes: string[];
            on: boolean;
        };
        EditMakeMaterial: {
            /** @enum {string} */
            do: "material";
            id?: null | string;
            name?: null | string;
            /** @description A material: its id, or what it is like; then the one that is so, which is made where there is none. */
            like?: string | {
                name?: string;
                color?: components["schemas"]["Color"];
                opacity?: number;
                alphaMode?: components["schemas"]["AlphaMode"];
                alphaCutoff?: number;
                roughness?: number;
                metalness?: number;
                emissive?: components["schemas"]["Color"];
                emissiveStrength?: number;
                doubleSided?: boolean;
                unlit?: boolean;
                textures?: components["schemas"]["TextureUse"][];
                lies?: components["schemas"]["Lies"];
            };
            /** Format: int32 */
            index?: null | number;
            nodes?: null | string[];
            /** Format: int32 */
            slot?: null | number;
        };
        EditMakeShot: {
            /** @enum {string} */
            do: "shot";
            shot: components["schemas"]["NewShot"];
            isOfShots?: boolean;
        };
        EditMergeMaterials: {
            /** @enum {string} */
            do: "mergeMaterials";
            of?: null | string[];
            isOfShots?: boolean;
        };
        EditMirror: {
            /** @enum {string} */
            do: "mirror";
            nodes: string[];
            /** @description A letter, or a direction of any length but zero. */
            axis: ("x" | "y" | "z") | [
                number,
                number,
                number
            ];
            space: components["schemas"]["Space"];
            about: components["schemas"]["About"];
            how?: components["schemas"]["MirrorHow"];
        };
        EditMove: {
            /** @enum {string} */
            do: "move";
            nodes: string[];
            by: components["schemas"]["Vec3"];
            space: components["schemas"]["Space"];
            children?: components["schemas"]["ChildrenMode"];
        };
        EditMovePivot: {
            /** @enum {string} */
            do: "movePivot";
            nodes: string[];
            to?: null | components["schemas"]["PivotPlace"];
            turn?: null | components["schemas"]["Vec3"];
            keep?: components["schemas"]["Keep"];
            shift?: null | components["schemas"]["PivotShift"];
            spin?: null | components["schemas"]["PivotSpin"];
            turnParts?: null | (null | number)[];
            mode?: components["schemas"]["AmountMode"];
        };
        EditOwnCamera: {
            /** @enum {string} */
            do: "ownCamera";
            shot: string;
            id?: null | string;
            isOfShots?: boolean;
        };
        EditPanAndTilt: {
            /** @enum {string} */
            do: "panAndTilt";
            base: string;
            tips: string[];
            target: string;
            facing?: null | string;
            /** @default false */
            mend?: boolean;
        };
        EditPaste: {
            /** @enum {string} */
            do: "paste";
            copied: components["schemas"]["CopiedNodes"];
            ids?: null | string[];
            under?: null | string;
        };
        EditPlace: {
            /** @enum {string} */
            do: "place";
            node: string;
            placement: components["schemas"]["PlacementPatch"];
        };
        EditPutHighlight: {
            /** @enum {string} */
            do: "highlight";
            nodes: string[];
            at: components["schemas"]["Vec3"];
            normal: components["schemas"]["Vec3"];
            eye?: null | components["schemas"]["Vec3"];
            view?: null | components["schemas"]["Vec3"];
        };
        EditPutUnder: {
            /** @enum {string} */
            do: "putUnder";
            nodes: string[];
            parent?: null | string;
            /** Format: int32 */
            index?: null | number;
            keep?: components["schemas"]["Keep"];
        };
        EditRemove: {
            /** @enum {string} */
            do: "remove";
            nodes: string[];
            children?: components["schemas"]["RemovedChildren"];
        };
        EditRemoveMaterial: {
            /** @enum {string} */
            do: "removeMaterial";
            material: string;
            replacement?: null | string;
            isOfShots?: boolean;
        };
        EditRemoveShot: {
            /** @enum {string} */
            do: "removeShot";
            id: string;
            isOfShots?: boolean;
        };
        EditRename: {
            /** @enum {string} */
            do: "rename";
            node: string;
            name: string;
        };
        EditRenameMany: {
            /** @enum {string} */
            do: "renameMany";
            nodes: string[];
            name?: null | string;
            find?: null | string;
            replace?: null | string;
            prefix?: null | string;
            suffix?: null | string;
            /** Format: int32 */
            from?: null | number;
            /**
             * Format: int32
             * @default 1
             */
            digits?: number;
        };
        EditRenumber: {
            /** @enum {string} */
            do: "renumber";
            /**
             * Format: int32
             * @default 10
             */
            from?: number;
            /**
             * Format: int32
             * @default 10
             */
            by?: number;
            isOfShots?: boolean;
        };
        EditRotate: {
            /** @enum {string} */
            do: "rotate";
            nodes: string[];
            /** Format: double */
            by: number;
            /** @description A letter, or a direction of any length but zero. */
            axis: ("x" | "y" | "z") | [
                number,
                number,
                number
            ];
            space: components["schemas"]["Space"];
            about: components["schemas"]["About"];
            effect?: components["schemas"]["Effect"];
            children?: components["schemas"]["ChildrenMode"];
        };
        EditScale: {
            /** @enum {string} */
            do: "scale";
            nodes: string[];
            by: components["schemas"]["Vec3"];
            space: components["schemas"]["Space"];
            about: components["schemas"]["About"];
            keepVolume?: null | components["schemas"]["KeepVolume"];
            effect?: components["schemas"]["Effect"];
            children?: components["schemas"]["ChildrenMode"];
        };
        /** @enum {unknown} */
        EditScope: "every" | "shot" | null;
        EditSee: {
            /** @enum {string} */
            do: "see";
            nodes: string[];
            working?: null | boolean;
            final?: null | boolean;
            isOfShots?: boolean;
        };
        EditSeeIn: {
            /** @enum {string} */
            do: "seeIn";
            shots: string[];
            of: string[];
            on?: null | boolean;
            isOfShots?: boolean;
        };
        EditSeparate: {
            /** @enum {string} */
            do: "separate";
            nodes: string[];
        };
        EditSetCamera: {
            /** @enum {string} */
            do: "setCamera";
            nodes: string[];
            projection?: null | components["schemas"]["Projection"];
            fov?: null | number;
            height?: null | number;
            near?: null | number;
            far?: null | number;
            aspect?: null | number;
            focalLength?: null | number;
            pixels?: null | number;
            shiftX?: null | number;
            shiftY?: null | number;
            aperture?: null | number;
            focus?: null | number;
            focusOn?: null | string;
            mode?: components["schemas"]["AmountMode"];
        };
        EditSetChannel: {
            /** @enum {string} */
            do: "set";
            nodes: string[];
            channel: components["schemas"]["ChannelName"];
            values: (null | number)[];
            mode?: components["schemas"]["AmountMode"];
            in?: components["schemas"]["ReadIn"];
        };
        EditSetConstraint: {
            /** @enum {string} */
            do: "setConstraint";
            of: components["schemas"]["EntryOf"][];
            enabled?: null | boolean;
            weight?: null | number;
            /** Format: int32 */
            index?: null | number;
            target?: null | string;
            axis?: null | string;
            upAxis?: null | string;
            /** @description Where up is: along an axis of the world or of the parent, toward a node, or by nothing. */
            up?: "least" | {
                world: string;
            } | {
                parent: string;
            } | {
                toward: string;
            } | null;
            hinge?: null | components["schemas"]["Vec3"];
            zero?: null | components["schemas"]["Vec3"];
            facing?: null | string;
            from?: null | number;
            to?: null | number;
            axes?: null | string;
            frame?: null | string;
            offset?: null | number[];
            factor?: null | number;
            low?: null | (null | number)[];
            high?: null | (null | number)[];
            how?: null | string;
            along?: null | components["schemas"]["Vec3"];
            align?: null | string;
            without?: null | string[];
            kind?: null | string;
            point?: null | components["schemas"]["Vec3"];
            at?: null | components["schemas"]["Vec3"];
        };
        EditSetLabel: {
            /** @enum {string} */
            do: "label";
            nodes: string[];
            color?: null | string;
            note?: null | string;
            closed?: null | boolean;
        };
        EditSetLight: {
            /** @enum {string} */
            do: "setLight";
            nodes: string[];
            type?: null | components["schemas"]["LightType"];
            /** @description A colour: six figures behind a # in sRGB where these say it exactly, else its linear shares of red, green and blue, from 0 to 1. */
            color?: (null | string) | [
                number,
                number,
                number
            ];
            intensity?: null | number;
            range?: null | number;
            innerCone?: null | number;
            outerCone?: null | number;
            temperature?: null | number;
            size?: null | number;
            panelHeight?: null | number;
            shadow?: null | boolean;
            mode?: components["schemas"]["AmountMode"];
        };
        EditSetMaterial: {
            /** @enum {string} */
            do: "setMaterial";
            material: string;
            name?: null | string;
            /** @description A colour: six figures behind a # in sRGB where these say it exactly, else its linear shares of red, green and blue, from 0 to 1. */
            color?: (null | string) | [
                number,
                number,
                number
            ];
            opacity?: null | number;
            alphaMode?: null | components["schemas"]["AlphaMode"];
            alphaCutoff?: null | number;
            roughness?: null | number;
            metalness?: null | number;
            /** @description A colour: six figures behind a # in sRGB where these say it exactly, else its linear shares of red, green and blue, from 0 to 1. */
            emissive?: (null | string) | [
                number,
                number,
                number
            ];
            emissiveStrength?: null | number;
            doubleSided?: null | boolean;
            unlit?: null | boolean;
            textures?: null | components["schemas"]["TextureUse"][];
            lies?: null | components["schemas"]["Lies"];
            mode?: components["schemas"]["AmountMode"];
            isOfShots?: boolean;
        };
        EditSetNormals: {
            /** @enum {string} */
            do: "setNormals";
            nodes: string[];
            how: components["schemas"]["SurfaceLook"];
            angle?: null | number;
        };
        EditSetOrder: {
            /** @enum {string} */
            do: "setOrder";
            nodes: string[];
            order: components["schemas"]["EulerOrder"];
        };
        EditSetRule: {
            /** @enum {string} */
            do: "setRule";
            collection: string;
            rule?: null | components["schemas"]["Rule"];
        };
        EditSetShape: {
            /** @enum {string} */
            do: "setShape";
            node: string;
            shape: components["schemas"]["ShapePatch"];
        };
        EditSetShot: {
            /** @enum {string} */
            do: "setShot";
            /** @default  */
            id?: string;
            number?: null | string;
            name?: null | string;
            camera?: null | string;
            /** Format: int32 */
            frames?: null | number;
            note?: null | string;
            colour?: null | string;
            /** Format: int32 */
            index?: null | number;
            isOfShots?: boolean;
        };
        EditSetSurroundings: {
            /** @enum {string} */
            do: "setSurroundings";
            style?: null | components["schemas"]["SurroundingsKind"];
            color?: null | string;
            ground?: null | string;
            picture?: null | string;
            strength?: null | number;
            turn?: null | number;
            behind?: null | boolean;
            exposure?: null | number;
            mode?: components["schemas"]["AmountMode"];
        };
        EditSetTakes: {
            /** @enum {string} */
            do: "setTakes";
            nodes: string[];
            takes: components["schemas"]["TakesPatch"];
            keep?: components["schemas"]["Keep"];
        };
        EditSetTiming: {
            /** @enum {string} */
            do: "setTiming";
            fps?: null | number;
            /** Format: int32 */
            firstFrame?: null | number;
            isOfShots?: boolean;
        };
        EditSpread: {
            /** @enum {string} */
            do: "spread";
            nodes: string[];
            along: components["schemas"]["SpreadAlong"];
            space: components["schemas"]["Space"];
            equal?: components["schemas"]["SpreadEqual"];
        };
        EditSteer: {
            /** @enum {string} */
            do: "steer";
            node: string;
            view: components["schemas"]["Affine"];
        };
        EditTakeBack: {
            /** @enum {string} */
            do: "takeBack";
            shot: string;
            nodes?: null | string[];
            channels?: null | string[];
            isOfShots?: boolean;
        };
        EditTakeFrom: {
            /** @enum {string} */
            do: "takeFrom";
            shot: string;
            from?: null | string;
            of?: null | string[];
            channels?: null | string[];
            /** @default false */
            camera?: boolean;
            /** @default false */
            frames?: boolean;
            isOfShots?: boolean;
        };
        EditTakeMaterial: {
            /** @enum {string} */
            do: "takeMaterial";
            nodes: string[];
            from?: null | string;
        };
        EditTurnTo: {
            /** @enum {string} */
            do: "turnTo";
            nodes: string[];
            target?: null | string;
            axis?: null | string;
            upAxis?: null | string;
            /** @description Where up is: along an axis of the world or of the parent, toward a node, or by nothing. */
            up?: "least" | {
                world: string;
            } | {
                parent: string;
            } | {
                toward: string;
            } | null;
            at?: null | components["schemas"]["Vec3"];
        };
        EditUnconstrain: {
            /** @enum {string} */
            do: "unconstrain";
            of: components["schemas"]["EntryOf"][];
        };
        EditUngroup: {
            /** @enum {string} */
            do: "ungroup";
            nodes: string[];
        };
        EditUnlink: {
            /** @enum {string} */
            do: "unlink";
            nodes: string[];
        };
        EditUnshare: {
            /** @enum {string} */
            do: "unshare";
            nodes: string[];
        };
        EditsRequest: {
            /** Format: int64 */
            base: number;
            edits: components["schemas"]["Edit"][];
            /** Format: uuid */
            key?: null | string;
            shot?: null | string;
            scope?: null | components["schemas"]["EditScope"];
        };
        /**
         * @default whole
         * @enum {unknown}
         */
        Effect: "whole" | "places";
        EntityData: {
            id: string;
            /** @description The place among the siblings when it was written. */
            index?: number;
            name?: string;
            number?: null | string;
            rank?: number;
            camera?: null | string;
            /** Format: int32 */
            frames?: number;
            note?: null | string;
            colour?: null | string;
            shot?: string;
            of?: string;
            channel?: string;
            value?: unknown;
            fps?: number;
            /** Format: int32 */
            firstFrame?: number;
            style?: components["schemas"]["SurroundingsKind"];
            /** @description A colour: six figures behind a # in sRGB where these say it exactly, else its linear shares of red, green and blue, from 0 to 1. */
            color?: string | [
                number,
                number,
                number
            ];
            ground?: null | string;
            picture?: null | string;
            strength?: number;
            turn?: number;
            behind?: boolean;
            exposure?: number;
            opacity?: number;
            alphaMode?: components["schemas"]["AlphaMode"];
            alphaCutoff?: number;
            roughness?: number;
            metalness?: number;
            /** @description A colour: six figures behind a # in sRGB where these say it exactly, else its linear shares of red, green and blue, from 0 to 1. */
            emissive?: string | [
                number,
                number,
                number
            ];
            emissiveStrength?: number;
            doubleSided?: boolean;
            unlit?: boolean;
            textures?: components["schemas"]["TextureUse"][];
            lies?: components["schemas"]["Lies"];
            parent?: null | string;
            switches?: components["schemas"]["Switches"];
            label?: components["schemas"]["Label"];
            rule?: {
                name?: null | string;
                /** @enum {unknown} */
                kind?: "shape" | "mesh" | "group" | "light" | "camera" | "mark" | null;
                material?: null | string;
                under?: null | string;
                materials?: null | unknown[];
            };
            /** @enum {string} */
            kind: "material" | "collection" | "timing" | "surroundings" | "shot" | "cheat";
        };
        EntryOf: {
            node: string;
            id?: null | string;
        };
        /** @enum {unknown} */
        EulerOrder: "XYZ" | "XZY" | "YXZ" | "YZX" | "ZXY" | "ZYX";
        EvaluatedAnswer: {
            /** Format: int64 */
            revision: number;
            nodes: components["schemas"]["EvaluatedNode"][];
            marks: components["schemas"]["EvaluatedNode"][];
        };
        EvaluatedNode: {
            id: string;
            world: number[];
            pivot: number[];
            seen: components["schemas"]["SeenAnswer"];
            warnings: string[];
            axes: number[];
            placed: null | number[];
            links: null | components["schemas"]["LinkReading"][];
        };
        FramesDifference: {
            /** Format: int32 */
            a: number;
            /** Format: int32 */
            b: number;
        };
        GoneEntity: {
            kind: string;
            id: string;
        };
        /**
         * @default middle
         * @enum {unknown}
         */
        GroupAt: "middle" | "base" | "zero" | "lead";
        JsonElement: unknown;
        JsonShot: {
            id: null | string;
            number: null | string;
            name: null | string;
            /** Format: int32 */
            frames: null | number;
            /** Format: int32 */
            first: null | number;
            code: null | string;
            camera: null | string;
            note: null | string;
            colour: null | string;
        };
        JsonShots: {
            /** Format: double */
            fps: number;
            /** Format: int32 */
            firstFrame: null | number;
            shots: components["schemas"]["JsonShot"][];
        };
        /**
         * @default world
         * @enum {unknown}
         */
        Keep: "world" | "numbers";
        KeepVolume: {
            given: string[];
        };
        KeptPicture: {
            hash: string;
            name: string;
            /** Format: int32 */
            width: number;
            /** Format: int32 */
            height: number;
            /** Format: int64 */
            bytes: number;
            mediaType: string;
        };
        Label: {
            color?: null | string;
            note?: null | string;
            /** @default false */
            closed?: boolean;
        };
        Lies: {
            how?: components["schemas"]["LiesHow"];
            /** @default 1 */
            metres?: number;
            /** @default 1 */
            aspect?: number;
            /** @default false */
            true?: boolean;
            from?: components["schemas"]["LiesFrom"];
        };
        /**
         * @default top
         * @enum {unknown}
         */
        LiesFrom: "top" | "bottom" | "front" | "back" | "left" | "right";
        /**
         * @default own
         * @enum {unknown}
         */
        LiesHow: "own" | "box" | "flat";
        Light: {
            type?: components["schemas"]["LightType"];
            /** @default 100 */
            intensity?: number;
            range?: null | number;
            innerCone?: null | number;
            outerCone?: null | number;
            temperature?: null | number;
            /** @default 0 */
            size?: number;
            panelHeight?: null | number;
            shadow?: null | boolean;
            /** @description A colour: six figures behind a # in sRGB where these say it exactly, else its linear shares of red, green and blue, from 0 to 1. */
            color?: string | [
                number,
                number,
                number
            ];
        };
        /**
         * @default point
         * @enum {unknown}
         */
        LightType: "point" | "directional" | "spot" | "panel";
        LinkReading: {
            id: string;
            kind: string;
            title: string;
            /** Format: double */
            moved: number;
            /** Format: double */
            turned: number;
            /** Format: double */
            scaled: number;
            warning: null | string;
        };
        ListedChange: {
            shot: null | string;
            title: string;
            changes: string[];
        };
        LogAnswer: {
            /** Format: int64 */
            revision: number;
            entries: components["schemas"]["LogEntry"][];
        };
        LogEntry: {
            /** Format: int64 */
            revision: number;
            /** Format: date-time */
            at: string;
            act: components["schemas"]["Act"];
            written: components["schemas"]["PartChange"][];
            step?: null | components["schemas"]["StepLine"];
            /** Format: uuid */
            key?: null | string;
            digest?: null | string;
            described?: null | components["schemas"]["Described"];
        };
        MarkPlace: {
            point?: null | components["schemas"]["Vec3"];
            y?: null | components["schemas"]["Vec3"];
            x?: null | components["schemas"]["Vec3"];
            node?: null | string;
            view?: null | components["schemas"]["Affine"];
        };
        /** @description A material: its id, or what it is like; then the one that is so, which is made where there is none. */
        MaterialChoice: string | {
            name?: string;
            color?: components["schemas"]["Color"];
            opacity?: number;
            alphaMode?: components["schemas"]["AlphaMode"];
            alphaCutoff?: number;
            roughness?: number;
            metalness?: number;
            emissive?: components["schemas"]["Color"];
            emissiveStrength?: number;
            doubleSided?: boolean;
            unlit?: boolean;
            textures?: components["schemas"]["TextureUse"][];
            lies?: components["schemas"]["Lies"];
        };
        /**
         * @default mirror
         * @enum {unknown}
         */
        MirrorHow: "mirror" | "turn";
        /**
         * @default each
         * @enum {unknown}
         */
        MoveAs: "each" | "block";
        NameStepRequest: {
            name?: null | string;
        };
        NamedSelection: {
            name: string;
            nodes: string[];
        };
        NewNode: {
            id?: null | string;
            name: string;
            kind: components["schemas"]["NodeKind"];
            placement?: null | components["schemas"]["PlacementPatch"];
            shape?: null | components["schemas"]["ShapePatch"];
            geometry?: null | string;
            material?: null | components["schemas"]["MaterialChoice"];
            materials?: null | unknown[];
            camera?: null | components["schemas"]["Camera"];
            light?: null | components["schemas"]["Light"];
            switches?: null | components["schemas"]["Switches"];
            anchor?: null | components["schemas"]["Vec3"];
        };
        NewSceneRequest: {
            name: string;
            like?: null | string;
        };
        NewShot: {
            id?: null | string;
            number?: null | string;
            name?: null | string;
            camera?: null | string;
            /** Format: int32 */
            frames?: null | number;
            note?: null | string;
            colour?: null | string;
            /** Format: int32 */
            index?: null | number;
        };
        NodeData: {
            id: string;
            /** @description The place among the siblings when it was written. */
            index?: number;
            name: string;
            kind: components["schemas"]["NodeKind"];
            parent: null | string;
            rank: number;
            placement: components["schemas"]["Placement"];
            shape?: components["schemas"]["Shape"];
            geometry?: null | string;
            normals?: components["schemas"]["Normals"];
            material?: null | string;
            materials?: string[];
            camera?: components["schemas"]["Camera"];
            light?: components["schemas"]["Light"];
            switches: components["schemas"]["Switches"];
            collections?: string[];
            shares?: null | string;
            label?: components["schemas"]["Label"];
            constraints?: unknown[];
        };
        /** @enum {unknown} */
        NodeKind: "shape" | "mesh" | "group" | "light" | "camera" | "mark";
        Normals: {
            how: components["schemas"]["NormalsHow"];
            /** @default 40 */
            angle?: number;
        };
        /** @enum {unknown} */
        NormalsHow: "facets" | "smooth";
        /**
         * @default follow
         * @enum {unknown}
         */
        OtherShots: "follow" | "keep";
        /** @description What was written of one thing. Without “was” it was made, without “is” removed. */
        PartChange: {
            id: string;
            /**
             * @description What it is; left out: a node.
             * @enum {string}
             */
            of?: "material" | "collection" | "timing" | "surroundings" | "shot" | "cheat";
            parts: ("existence" | "name" | "seat" | "placement" | "shape" | "material" | "lens" | "switches" | "collections" | "label" | "rule" | "constraints" | "value" | "length" | "colour" | "pictures")[];
            /** @description The fields of the written parts before; those that are as usual are left out. */
            was?: Record<string, never>;
            /** @description The fields of the written parts after; those that are as usual are left out. */
            is?: Record<string, never>;
        };
        PictureAnswer: {
            hash: string;
            name: string;
            /** Format: int32 */
            width: number;
            /** Format: int32 */
            height: number;
            /** Format: int64 */
            bytes: number;
            mediaType: string;
            notes?: null | string[];
        };
        PivotPlace: {
            anchor?: null | components["schemas"]["Vec3"];
            of?: components["schemas"]["AnchorAxes"];
            point?: null | components["schemas"]["Vec3"];
            own?: null | components["schemas"]["Vec3"];
            node?: null | string;
            parts?: null | (null | number)[];
        };
        PivotShift: {
            by: components["schemas"]["Vec3"];
            space: components["schemas"]["Space"];
        };
        PivotSpin: {
            /** Format: double */
            by: number;
            /** @description A letter, or a direction of any length but zero. */
            axis: ("x" | "y" | "z") | [
                number,
                number,
                number
            ];
            space: components["schemas"]["Space"];
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
        PlacementPatch: {
            position?: null | components["schemas"]["Vec3"];
            rotation?: null | components["schemas"]["Vec3"];
            order?: null | components["schemas"]["EulerOrder"];
            scale?: null | components["schemas"]["Vec3"];
            shear?: null | components["schemas"]["Vec3"];
            pivot?: null | components["schemas"]["Vec3"];
            pivotTurn?: null | components["schemas"]["Vec3"];
            takes?: null | components["schemas"]["TakesPatch"];
        };
        /**
         * @default perspective
         * @enum {unknown}
         */
        Projection: "perspective" | "parallel";
        /**
         * @default parent
         * @enum {unknown}
         */
        ReadIn: "parent" | "world";
        /**
         * @default with
         * @enum {unknown}
         */
        RemovedChildren: "with" | "lift";
        RemovedScene: {
            id: string;
            name: string;
            /** Format: int32 */
            nodeCount: number;
            /** Format: date-time */
            removedAt: string;
            mine: boolean;
        };
        Repeat: components["schemas"]["RepeatMove"] | components["schemas"]["RepeatRotate"] | components["schemas"]["RepeatScale"] | components["schemas"]["RepeatMirror"];
        RepeatMirror: {
            /** @enum {string} */
            do: "mirror";
            /** @description A letter, or a direction of any length but zero. */
            axis: ("x" | "y" | "z") | [
                number,
                number,
                number
            ];
            space: components["schemas"]["Space"];
            about: components["schemas"]["About"];
            how?: components["schemas"]["MirrorHow"];
        };
        RepeatMove: {
            /** @enum {string} */
            do: "move";
            by: components["schemas"]["Vec3"];
            space: components["schemas"]["Space"];
            children?: components["schemas"]["ChildrenMode"];
        };
        RepeatRotate: {
            /** @enum {string} */
            do: "rotate";
            /** Format: double */
            by: number;
            /** @description A letter, or a direction of any length but zero. */
            axis: ("x" | "y" | "z") | [
                number,
                number,
                number
            ];
            space: components["schemas"]["Space"];
            about: components["schemas"]["About"];
            effect?: components["schemas"]["Effect"];
            children?: components["schemas"]["ChildrenMode"];
        };
        RepeatScale: {
            /** @enum {string} */
            do: "scale";
            by: components["schemas"]["Vec3"];
            space: components["schemas"]["Space"];
            about: components["schemas"]["About"];
            keepVolume?: null | components["schemas"]["KeepVolume"];
            effect?: components["schemas"]["Effect"];
            children?: components["schemas"]["ChildrenMode"];
        };
        RestoreRequest: {
            /** Format: int64 */
            base: number;
            /** Format: uuid */
            key?: null | string;
            /** Format: int64 */
            to?: null | number;
        };
        Rule: {
            name?: null | string;
            kind?: null | components["schemas"]["NodeKind"];
            material?: null | string;
            under?: null | string;
            materials?: null | unknown[];
        };
        SceneAnswer: {
            id: string;
            name: string;
            /** Format: int64 */
            revision: number;
            unit: string;
            nodes: components["schemas"]["NodeData"][];
            marks: components["schemas"]["NodeData"][];
            collections: components["schemas"]["EntityData"][];
            materials: components["schemas"]["EntityData"][];
            shots: components["schemas"]["EntityData"][];
            cheats: components["schemas"]["EntityData"][];
            /** Format: double */
            fps: number;
            /** Format: int32 */
            firstFrame: number;
            surroundings: components["schemas"]["EntityData"];
            notes?: null | string[];
            /** Format: int32 */
            keepSteps?: null | number;
        };
        SceneSummary: {
            id: string;
            name: string;
            /** Format: int64 */
            revision: number;
            /** Format: int32 */
            nodeCount: number;
            /** Format: date-time */
            updatedAt: string;
            unit: string;
            mine: null | boolean;
            /** Format: int64 */
            picture: null | number;
            /** Format: int32 */
            keepSteps: null | number;
        };
        SeenAnswer: {
            working: boolean;
            final: boolean;
            reasons: string[];
        };
        SeenDifference: {
            id: string;
            a: boolean;
            b: boolean;
        };
        SelectionRequest: {
            name: string;
            nodes: string[];
        };
        /** @description A type of shape with all its own parameters; lengths in metres. */
        Shape: {
            /** @enum {string} */
            type: "box" | "ball" | "icoball" | "cylinder" | "cone" | "ring" | "plane" | "capsule" | "disc";
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
            type?: null | string;
            size?: null | number[];
            /** Format: double */
            radius?: null | number;
            /** Format: double */
            topRadius?: null | number;
            /** Format: double */
            height?: null | number;
            /** Format: double */
            tube?: null | number;
            /** Format: double */
            inner?: null | number;
            /** Format: int32 */
            segments?: null | number;
            /** Format: int32 */
            rings?: null | number;
            /** Format: int32 */
            sides?: null | number;
            /** Format: int32 */
            divisions?: null | number;
            caps?: null | boolean;
        };
        ShotDiff: {
            cheats: components["schemas"]["CheatDifference"][];
            seen: components["schemas"]["SeenDifference"][];
            camera: null | components["schemas"]["CameraDifference"];
            frames: null | components["schemas"]["FramesDifference"];
            isEmpty?: boolean;
        };
        ShotListAnswer: {
            text: string;
            changes: components["schemas"]["ListedChange"][];
            moved: boolean;
            notes: string[];
            shots: components["schemas"]["NewShot"][];
            /** Format: int32 */
            firstFrame: null | number;
            /** Format: int32 */
            off: number;
            step?: null | components["schemas"]["StepAnswer"];
        };
        ShotPictureEntry: {
            shot: string;
            /** Format: int64 */
            revision: number;
        };
        Space: components["schemas"]["SpaceWorldSpace"] | components["schemas"]["SpaceParentSpace"] | components["schemas"]["SpaceOwnSpace"] | components["schemas"]["SpaceLeadSpace"] | components["schemas"]["SpaceViewSpace"] | components["schemas"]["SpaceSurfaceSpace"] | components["schemas"]["SpaceChannelsSpace"] | components["schemas"]["SpaceMarkSpace"];
        SpaceChannelsSpace: {
            /** @enum {string} */
            kind: "channels";
        };
        SpaceLeadSpace: {
            /** @enum {string} */
            kind: "lead";
        };
        SpaceMarkSpace: {
            /** @enum {string} */
            kind: "mark";
            mark: string;
        };
        SpaceOwnSpace: {
            /** @enum {string} */
            kind: "own";
        };
        SpaceParentSpace: {
            /** @enum {string} */
            kind: "parent";
        };
        SpaceSurfaceSpace: {
            /** @enum {string} */
            kind: "surface";
            y: components["schemas"]["Vec3"];
            x?: null | components["schemas"]["Vec3"];
        };
        SpaceViewSpace: {
            /** @enum {string} */
            kind: "view";
            world: components["schemas"]["Affine"];
        };
        SpaceWorldSpace: {
            /** @enum {string} */
            kind: "world";
        };
        /** @enum {unknown} */
        SpreadAlong: "x" | "y" | "z" | "line";
        /**
         * @default gaps
         * @enum {unknown}
         */
        SpreadEqual: "gaps" | "pivots";
        StepAnswer: {
            /** Format: int64 */
            revision: number;
            step: components["schemas"]["StepLine"];
            changed: components["schemas"]["NodeData"][];
            removed: string[];
            entities: components["schemas"]["EntityData"][];
            gone: components["schemas"]["GoneEntity"][];
            /** Format: uuid */
            key?: null | string;
            digest?: null | string;
            notes?: null | string[];
        };
        StepEntry: {
            /** Format: int64 */
            number: number;
            sentence: string;
            by: string;
            /** Format: date-time */
            at: string;
            undone: boolean;
            dropped: boolean;
            name: null | string;
        };
        StepLine: {
            /** Format: int64 */
            number: number;
            sentence: string;
            by: string;
            picked: string[];
        };
        Still: {
            id: string;
            name: string;
            shot: null | string;
            /** Format: int64 */
            revision: number;
            /** Format: int32 */
            width: number;
            /** Format: int32 */
            height: number;
            /** Format: int32 */
            passes: number;
            /** Format: double */
            seconds: number;
            madeOf: components["schemas"]["JsonElement"];
            /** Format: date-time */
            at: string;
            /** Format: int64 */
            bytes: number;
            parts: string[];
        };
        StillAnswer: {
            id: string;
        };
        StopAnswer: {
            ended: string;
        };
        /** @enum {unknown} */
        SurfaceLook: "asMade" | "facets" | "smooth";
        /** @enum {unknown} */
        SurroundingsKind: "even" | "sky" | "picture";
        Switches: {
            /** @default true */
            working?: boolean;
            /** @default true */
            final?: boolean;
            /** @default false */
            locked?: boolean;
            drawn?: components["schemas"]["DrawnAs"];
        };
        Takes: {
            /** @default true */
            position?: boolean;
            /** @default true */
            rotation?: boolean;
            /** @default true */
            scale?: boolean;
        };
        TakesPatch: {
            position?: null | boolean;
            rotation?: null | boolean;
            scale?: null | boolean;
        };
        TextureUse: {
            channel: string;
            image: string;
            /**
             * Format: int32
             * @default 0
             */
            texCoord?: number;
            /**
             * Format: int32
             * @default 10497
             */
            wrapS?: number;
            /**
             * Format: int32
             * @default 10497
             */
            wrapT?: number;
            /** Format: int32 */
            magFilter?: null | number;
            /** Format: int32 */
            minFilter?: null | number;
            strength?: null | number;
            /** @description Two numbers: across and down a picture. */
            repeat?: null | [
                [
                    number,
                    number
                ][],
                [
                    number,
                    number
                ][]
            ];
            /** @description Two numbers: across and down a picture. */
            offset?: null | [
                [
                    number,
                    number
                ][],
                [
                    number,
                    number
                ][]
            ];
            /** @default 0 */
            turn?: number;
        };
        UnusedBlobs: {
            /** Format: int32 */
            count: number;
            /** Format: int64 */
            bytes: number;
        };
        /** @description Where up is: along an axis of the world or of the parent, toward a node, or by nothing. */
        Up: "least" | {
            world: string;
        } | {
            parent: string;
        } | {
            toward: string;
        } | null;
        /** @description Three numbers: along X, Y and Z. */
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
export type About = components['schemas']['About'];
export type AboutAboutBounds = components['schemas']['AboutAboutBounds'];
export type AboutAboutLead = components['schemas']['AboutAboutLead'];
export type AboutAboutMark = components['schemas']['AboutAboutMark'];
export type AboutAboutMean = components['schemas']['AboutAboutMean'];
export type AboutAboutOwn = components['schemas']['AboutAboutOwn'];
export type AboutAboutPoint = components['schemas']['AboutAboutPoint'];
export type AboutAboutZero = components['schemas']['AboutAboutZero'];
export type Across = components['schemas']['Across'];
export type Act = components['schemas']['Act'];
export type AddWhere = components['schemas']['AddWhere'];
export type Affine = components['schemas']['Affine'];
export type AlignAxes = components['schemas']['AlignAxes'];
export type AlignAxis = components['schemas']['AlignAxis'];
export type AlignPlace = components['schemas']['AlignPlace'];
export type AlphaMode = components['schemas']['AlphaMode'];
export type AmountMode = components['schemas']['AmountMode'];
export type AnchorAxes = components['schemas']['AnchorAxes'];
export type BringTo = components['schemas']['BringTo'];
export type Camera = components['schemas']['Camera'];
export type CameraDifference = components['schemas']['CameraDifference'];
export type Carried = components['schemas']['Carried'];
export type ChannelName = components['schemas']['ChannelName'];
export type CheatDifference = components['schemas']['CheatDifference'];
export type CheatValue = components['schemas']['CheatValue'];
export type ChildrenMode = components['schemas']['ChildrenMode'];
export type Color = components['schemas']['Color'];
export type ConstraintPatch = components['schemas']['ConstraintPatch'];
export type CopiedNodes = components['schemas']['CopiedNodes'];
export type DerivedAnswer = components['schemas']['DerivedAnswer'];
export type DescribeRequest = components['schemas']['DescribeRequest'];
export type Described = components['schemas']['Described'];
export type DrawnAs = components['schemas']['DrawnAs'];
export type DropBy = components['schemas']['DropBy'];
export type Edit = components['schemas']['Edit'];
export type EditAdd = components['schemas']['EditAdd'];
export type EditAlign = components['schemas']['EditAlign'];
export type EditAssign = components['schemas']['EditAssign'];
export type EditBake = components['schemas']['EditBake'];
export type EditBring = components['schemas']['EditBring'];
export type EditCarryAlong = components['schemas']['EditCarryAlong'];
export type EditClearMaterials = components['schemas']['EditClearMaterials'];
export type EditCollect = components['schemas']['EditCollect'];
export type EditConstrain = components['schemas']['EditConstrain'];
export type EditCopyShot = components['schemas']['EditCopyShot'];
export type EditCreate = components['schemas']['EditCreate'];
export type EditCreateMark = components['schemas']['EditCreateMark'];
export type EditDraw = components['schemas']['EditDraw'];
export type EditDrive = components['schemas']['EditDrive'];
export type EditDrop = components['schemas']['EditDrop'];
export type EditDropShear = components['schemas']['EditDropShear'];
export type EditDuplicate = components['schemas']['EditDuplicate'];
export type EditEverywhere = components['schemas']['EditEverywhere'];
export type EditFaceWith = components['schemas']['EditFaceWith'];
export type EditFollowNode = components['schemas']['EditFollowNode'];
export type EditGather = components['schemas']['EditGather'];
export type EditGiveLinks = components['schemas']['EditGiveLinks'];
export type EditGroup = components['schemas']['EditGroup'];
export type EditJoin = components['schemas']['EditJoin'];
export type EditKeepSize = components['schemas']['EditKeepSize'];
export type EditLevel = components['schemas']['EditLevel'];
export type EditListShots = components['schemas']['EditListShots'];
export type EditLockNodes = components['schemas']['EditLockNodes'];
export type EditMakeMaterial = components['schemas']['EditMakeMaterial'];
export type EditMakeShot = components['schemas']['EditMakeShot'];
export type EditMergeMaterials = components['schemas']['EditMergeMaterials'];
export type EditMirror = components['schemas']['EditMirror'];
export type EditMove = components['schemas']['EditMove'];
export type EditMovePivot = components['schemas']['EditMovePivot'];
export type EditOwnCamera = components['schemas']['EditOwnCamera'];
export type EditPanAndTilt = components['schemas']['EditPanAndTilt'];
export type EditPaste = components['schemas']['EditPaste'];
export type EditPlace = components['schemas']['EditPlace'];
export type EditPutHighlight = components['schemas']['EditPutHighlight'];
export type EditPutUnder = components['schemas']['EditPutUnder'];
export type EditRemove = components['schemas']['EditRemove'];
export type EditRemoveMaterial = components['schemas']['EditRemoveMaterial'];
export type EditRemoveShot = components['schemas']['EditRemoveShot'];
export type EditRename = components['schemas']['EditRename'];
export type EditRenameMany = components['schemas']['EditRenameMany'];
export type EditRenumber = components['schemas']['EditRenumber'];
export type EditRotate = components['schemas']['EditRotate'];
export type EditScale = components['schemas']['EditScale'];
export type EditScope = components['schemas']['EditScope'];
export type EditSee = components['schemas']['EditSee'];
export type EditSeeIn = components['schemas']['EditSeeIn'];
export type EditSeparate = components['schemas']['EditSeparate'];
export type EditSetCamera = components['schemas']['EditSetCamera'];
export type EditSetChannel = components['schemas']['EditSetChannel'];
export type EditSetConstraint = components['schemas']['EditSetConstraint'];
export type EditSetLabel = components['schemas']['EditSetLabel'];
export type EditSetLight = components['schemas']['EditSetLight'];
export type EditSetMaterial = components['schemas']['EditSetMaterial'];
export type EditSetNormals = components['schemas']['EditSetNormals'];
export type EditSetOrder = components['schemas']['EditSetOrder'];
export type EditSetRule = components['schemas']['EditSetRule'];
export type EditSetShape = components['schemas']['EditSetShape'];
export type EditSetShot = components['schemas']['EditSetShot'];
export type EditSetSurroundings = components['schemas']['EditSetSurroundings'];
export type EditSetTakes = components['schemas']['EditSetTakes'];
export type EditSetTiming = components['schemas']['EditSetTiming'];
export type EditSpread = components['schemas']['EditSpread'];
export type EditSteer = components['schemas']['EditSteer'];
export type EditTakeBack = components['schemas']['EditTakeBack'];
export type EditTakeFrom = components['schemas']['EditTakeFrom'];
export type EditTakeMaterial = components['schemas']['EditTakeMaterial'];
export type EditTurnTo = components['schemas']['EditTurnTo'];
export type EditUnconstrain = components['schemas']['EditUnconstrain'];
export type EditUngroup = components['schemas']['EditUngroup'];
export type EditUnlink = components['schemas']['EditUnlink'];
export type EditUnshare = components['schemas']['EditUnshare'];
export type EditsRequest = components['schemas']['EditsRequest'];
export type Effect = components['schemas']['Effect'];
export type EntityData = components['schemas']['EntityData'];
export type EntryOf = components['schemas']['EntryOf'];
export type EulerOrder = components['schemas']['EulerOrder'];
export type EvaluatedAnswer = components['schemas']['EvaluatedAnswer'];
export type EvaluatedNode = components['schemas']['EvaluatedNode'];
export type FramesDifference = components['schemas']['FramesDifference'];
export type GoneEntity = components['schemas']['GoneEntity'];
export type GroupAt = components['schemas']['GroupAt'];
export type JsonElement = components['schemas']['JsonElement'];
export type JsonShot = components['schemas']['JsonShot'];
export type JsonShots = components['schemas']['JsonShots'];
export type Keep = components['schemas']['Keep'];
export type KeepVolume = components['schemas']['KeepVolume'];
export type KeptPicture = components['schemas']['KeptPicture'];
export type Label = components['schemas']['Label'];
export type Lies = components['schemas']['Lies'];
export type LiesFrom = components['schemas']['LiesFrom'];
export type LiesHow = components['schemas']['LiesHow'];
export type Light = components['schemas']['Light'];
export type LightType = components['schemas']['LightType'];
export type LinkReading = components['schemas']['LinkReading'];
export type ListedChange = components['schemas']['ListedChange'];
export type LogAnswer = components['schemas']['LogAnswer'];
export type LogEntry = components['schemas']['LogEntry'];
export type MarkPlace = components['schemas']['MarkPlace'];
export type MaterialChoice = components['schemas']['MaterialChoice'];
export type MirrorHow = components['schemas']['MirrorHow'];
export type MoveAs = components['schemas']['MoveAs'];
export type NameStepRequest = components['schemas']['NameStepRequest'];
export type NamedSelection = components['schemas']['NamedSelection'];
export type NewNode = components['schemas']['NewNode'];
export type NewSceneRequest = components['schemas']['NewSceneRequest'];
export type NewShot = components['schemas']['NewShot'];
export type NodeData = components['schemas']['NodeData'];
export type NodeKind = components['schemas']['NodeKind'];
export type Normals = components['schemas']['Normals'];
export type NormalsHow = components['schemas']['NormalsHow'];
export type OtherShots = components['schemas']['OtherShots'];
export type PartChange = components['schemas']['PartChange'];
export type PictureAnswer = components['schemas']['PictureAnswer'];
export type PivotPlace = components['schemas']['PivotPlace'];
export type PivotShift = components['schemas']['PivotShift'];
export type PivotSpin = components['schemas']['PivotSpin'];
export type Placement = components['schemas']['Placement'];
export type PlacementPatch = components['schemas']['PlacementPatch'];
export type Projection = components['schemas']['Projection'];
export type ReadIn = components['schemas']['ReadIn'];
export type RemovedChildren = components['schemas']['RemovedChildren'];
export type RemovedScene = components['schemas']['RemovedScene'];
export type Repeat = components['schemas']['Repeat'];
export type RepeatMirror = components['schemas']['RepeatMirror'];
export type RepeatMove = components['schemas']['RepeatMove'];
export type RepeatRotate = components['schemas']['RepeatRotate'];
export type RepeatScale = components['schemas']['RepeatScale'];
export type RestoreRequest = components['schemas']['RestoreRequest'];
export type Rule = components['schemas']['Rule'];
export type SceneAnswer = components['schemas']['SceneAnswer'];
export type SceneSummary = components['schemas']['SceneSummary'];
export type SeenAnswer = components['schemas']['SeenAnswer'];
export type SeenDifference = components['schemas']['SeenDifference'];
export type SelectionRequest = components['schemas']['SelectionRequest'];
export type Shape = components['schemas']['Shape'];
export type ShapePatch = components['schemas']['ShapePatch'];
export type ShotDiff = components['schemas']['ShotDiff'];
export type ShotListAnswer = components['schemas']['ShotListAnswer'];
export type ShotPictureEntry = components['schemas']['ShotPictureEntry'];
export type Space = components['schemas']['Space'];
export type SpaceChannelsSpace = components['schemas']['SpaceChannelsSpace'];
export type SpaceLeadSpace = components['schemas']['SpaceLeadSpace'];
export type SpaceMarkSpace = components['schemas']['SpaceMarkSpace'];
export type SpaceOwnSpace = components['schemas']['SpaceOwnSpace'];
export type SpaceParentSpace = components['schemas']['SpaceParentSpace'];
export type SpaceSurfaceSpace = components['schemas']['SpaceSurfaceSpace'];
export type SpaceViewSpace = components['schemas']['SpaceViewSpace'];
export type SpaceWorldSpace = components['schemas']['SpaceWorldSpace'];
export type SpreadAlong = components['schemas']['SpreadAlong'];
export type SpreadEqual = components['schemas']['SpreadEqual'];
export type StepAnswer = components['schemas']['StepAnswer'];
export type StepEntry = components['schemas']['StepEntry'];
export type StepLine = components['schemas']['StepLine'];
export type Still = components['schemas']['Still'];
export type StillAnswer = components['schemas']['StillAnswer'];
export type StopAnswer = components['schemas']['StopAnswer'];
export type SurfaceLook = components['schemas']['SurfaceLook'];
export type SurroundingsKind = components['schemas']['SurroundingsKind'];
export type Switches = components['schemas']['Switches'];
export type Takes = components['schemas']['Takes'];
export type TakesPatch = components['schemas']['TakesPatch'];
export type TextureUse = components['schemas']['TextureUse'];
export type UnusedBlobs = components['schemas']['UnusedBlobs'];
export type Up = components['schemas']['Up'];
export type Vec3 = components['schemas']['Vec3'];
export type $defs = Record<string, never>;
export type operations = Record<string, never>;
