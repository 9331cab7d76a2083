import { useEffect, useState } from 'react';
import Crop from 'react-easy-crop';
import 'react-easy-crop/react-easy-crop.css';
import type { Cut } from './cut';

/** The picture with a frame over it: dragged and sized under the frame. */
export default function Cropper(props: {
  image: string;
  full: { width: number; height: number };
  turn: number;
  square: boolean;
  picked: (area: Cut['area']) => void;
}) {
  const { image, full, turn, square, picked } = props;
  const [at, setAt] = useState({ x: 0, y: 0 });
  const [zoom, setZoom] = useState(1);
  const lying = turn % 180 !== 0;
  const aspect = square ? 1 : lying ? full.height / full.width : full.width / full.height;
  useEffect(() => {
    setAt({ x: 0, y: 0 });
    setZoom(1);
  }, [aspect, turn]);
  return (
    <Crop
      image={image}
      crop={at}
      zoom={zoom}
      maxZoom={12}
      rotation={turn}
      aspect={aspect}
      objectFit="contain"
      disableAutomaticStylesInjection
      onCropChange={setAt}
      onZoomChange={setZoom}
      onCropComplete={(_, area) => picked(area)}
    />
  );
}
